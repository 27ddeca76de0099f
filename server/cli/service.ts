/** A unit for systemd: the station's computer comes up with Salt Line after a power cut. */
import { userInfo } from 'node:os'
import { dirname, resolve } from 'node:path'
import { copiesFolder } from '../src/store/copies.ts'

/**
 * @param command how the program is called, and with what
 * @param database the folders of which and of its copies may be written to
 */
export function serviceUnit(command: readonly string[], database: string): string {
  const { username } = userInfo()
  const file = resolve(database)
  return `[Unit]
Description=Salt Line
Documentation=man:systemd.service(5)
After=network.target

[Service]
Type=exec
User=${username}
ExecStart=${command.map(quoted).join(' ')}
Restart=on-failure
RestartSec=5
TimeoutStopSec=15
UMask=0077

# It may write to its own folders, listen, and nothing else.
NoNewPrivileges=yes
CapabilityBoundingSet=
ProtectHostname=yes
RemoveIPC=yes
ProtectSystem=strict
ProtectHome=read-only
ReadWritePaths=${[...new Set([dirname(file), dirname(copiesFolder(file))])].map(quoted).join(' ')}
PrivateTmp=yes
PrivateDevices=yes
ProtectClock=yes
ProtectControlGroups=yes
ProtectKernelLogs=yes
ProtectKernelModules=yes
ProtectKernelTunables=yes
RestrictAddressFamilies=AF_INET AF_INET6 AF_UNIX
RestrictNamespaces=yes
RestrictRealtime=yes
RestrictSUIDSGID=yes
LockPersonality=yes
SystemCallArchitectures=native

[Install]
WantedBy=multi-user.target
`
}

/** Quoted where systemd would take it apart. */
const quoted = (word: string): string =>
  /[\s"'\\$%]/.test(word)
    ? `"${word.replace(/[\\"]/g, '\\$&').replaceAll('%', '%%').replaceAll('$', '$$$$')}"`
    : word
