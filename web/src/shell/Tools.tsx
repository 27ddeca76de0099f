import { CircleHelp, EllipsisVertical, Moon, Ruler, Search, Sun } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { memo } from 'react'
import { type Preferences, setPreferences, usePreferences } from '../platform/preferences.ts'

/** Find, units, theme and help: the same on every page. */
export const Tools = memo(function Tools({
  onFind,
  onHelp,
}: {
  onFind: () => void
  onHelp: () => void
}) {
  const preferences = usePreferences()
  const { theme, length, power } = preferences
  return (
    <>
      <button type="button" aria-keyshortcuts="/" className="quiet max-sm:!px-1.5" onClick={onFind}>
        <Search size={15} aria-hidden /> <span className="max-sm:sr-only">Find</span>
        <kbd aria-hidden>/</kbd>
      </button>
      <Menu
        className="max-sm:hidden"
        label={`Units: ${length}, ${power}`}
        trigger={
          <>
            <Ruler size={15} aria-hidden /> {length}, {power}
          </>
        }
      >
        <Units preferences={preferences} />
      </Menu>
      <Menu
        className="max-sm:hidden"
        label="Theme"
        trigger={theme === 'night' ? <Moon size={16} aria-hidden /> : <Sun size={16} aria-hidden />}
      >
        <Themes theme={theme} />
      </Menu>
      <button
        type="button"
        className="quiet max-sm:hidden"
        aria-label="Keys and help"
        onClick={() => onHelp()}
      >
        <CircleHelp size={16} aria-hidden />
      </button>
      {/* A phone has room for two: what is not found is in the other. */}
      <Menu
        className="!px-1.5 sm:hidden"
        label="Units, theme and help"
        trigger={<EllipsisVertical size={16} aria-hidden />}
      >
        <Units preferences={preferences} />
        <DropdownMenu.Separator className="my-1 border-t border-rule" />
        <Themes theme={theme} />
        <DropdownMenu.Separator className="my-1 border-t border-rule" />
        <DropdownMenu.Item className="menu-item" onSelect={() => onHelp()}>
          <span className="w-5" />
          Keys and help
        </DropdownMenu.Item>
      </Menu>
    </>
  )
})

const Menu = ({
  label,
  trigger,
  className,
  children,
}: {
  label: string
  trigger: React.ReactNode
  className: string
  children: React.ReactNode
}) => (
  <DropdownMenu.Root modal={false}>
    <DropdownMenu.Trigger className={`quiet ${className}`} aria-label={label}>
      {trigger}
    </DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content className="menu" align="end" sideOffset={6} collisionPadding={8}>
        {children}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
)

const Units = ({ preferences: { length, power } }: { preferences: Preferences }) => (
  <>
    <Choices
      label="Lengths in"
      value={length}
      options={{ m: 'metres', ft: 'feet' }}
      onPick={(v) => setPreferences({ length: v })}
    />
    <DropdownMenu.Separator className="my-1 border-t border-rule" />
    <Choices
      label="Power in"
      value={power}
      options={{ W: 'watts', dBm: 'dBm' }}
      onPick={(v) => setPreferences({ power: v })}
    />
  </>
)

const Themes = ({ theme }: Pick<Preferences, 'theme'>) => (
  <Choices<Preferences['theme']>
    label="Theme"
    value={theme}
    options={{ day: 'Light', night: 'Dark', system: 'as the system' }}
    onPick={(v) => setPreferences({ theme: v })}
  />
)

function Choices<T extends string>({
  label,
  value,
  options,
  onPick,
}: {
  label: string
  value: T
  options: Record<T, string>
  onPick: (value: T) => void
}) {
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={(v) => onPick(v as T)}>
      <DropdownMenu.Label className="px-3 py-1 text-xs text-muted">{label}</DropdownMenu.Label>
      {(Object.entries(options) as [T, string][]).map(([key, name]) => (
        <DropdownMenu.RadioItem key={key} value={key} className="menu-item">
          <span className="w-5">{key === value ? '●' : ''}</span>
          {name}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  )
}
