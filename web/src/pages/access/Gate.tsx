import { Mark } from '../../shell/Mark.tsx'

/** The page of one who is not in yet: nothing on it asks the server for anything else. */
export function Gate({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <main className="mx-auto flex min-h-full max-w-sm flex-col justify-center px-5 py-10">
      <title>{`${title} · Salt Line`}</title>
      <p className="flex items-center gap-2.5 font-bold">
        <Mark /> Salt Line
      </p>
      <h1 className="mt-4 mb-3 text-xl font-bold">{title}</h1>
      {children}
    </main>
  )
}
