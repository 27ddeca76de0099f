/** What keeps a database from being read or written, told apart by what SQLite and the system say. */

export type FaultKind = 'locked' | 'full' | 'read-only' | 'damaged' | 'unreadable'

export interface Fault {
  kind: FaultKind
  /** HTTP status: 507 where there is no room, else 503. */
  status: 503 | 507
  title: string
  /** What to do about it. */
  cure: string
}

export const faults: Record<FaultKind, Omit<Fault, 'kind'>> = {
  locked: {
    status: 503,
    title: 'The database is locked',
    cure: 'Another program has been writing to it for a while. Try again when that one is done.',
  },
  full: {
    status: 507,
    title: 'The disk is full',
    cure: 'Make room on the disk that the database is on; writing then goes on by itself.',
  },
  'read-only': {
    status: 503,
    title: 'The database is read-only',
    cure: 'Whoever runs the server needs the right to write to the file and to its folder; writing then goes on by itself.',
  },
  damaged: {
    status: 503,
    title: 'The database is damaged',
    cure: 'Stop the server, keep a copy of the file and of those beside it, and start with the newest backup.',
  },
  unreadable: {
    status: 503,
    title: 'The database cannot be reached',
    cure: 'Look whether the disk is there and healthy, and whether whoever runs the server may read the file.',
  },
}

const kindOf: Record<string, FaultKind> = {
  SQLITE_BUSY: 'locked',
  SQLITE_LOCKED: 'locked',
  SQLITE_PROTOCOL: 'locked',
  SQLITE_FULL: 'full',
  ENOSPC: 'full',
  EDQUOT: 'full',
  EFBIG: 'full',
  SQLITE_READONLY: 'read-only',
  EROFS: 'read-only',
  EACCES: 'read-only',
  EPERM: 'read-only',
  SQLITE_CORRUPT: 'damaged',
  SQLITE_NOTADB: 'damaged',
  SQLITE_IOERR: 'unreadable',
  SQLITE_CANTOPEN: 'unreadable',
  SQLITE_PERM: 'unreadable',
  SQLITE_NOMEM: 'unreadable',
  EIO: 'unreadable',
  EMFILE: 'unreadable',
  ENFILE: 'unreadable',
}

/** What kept the database from being used, where an error was that; null for any other error. */
export function faultOf(error: unknown): Fault | null {
  // The query builder wraps the driver's error, and the driver SQLite's.
  for (let e: unknown = error, depth = 0; e instanceof Error && depth < 5; e = e.cause, depth++) {
    const { code } = e as NodeJS.ErrnoException
    const kind = typeof code === 'string' ? kindOf[plain(code)] : undefined
    if (kind) return { kind, ...faults[kind] }
  }
  return null
}

/** `SQLITE_IOERR_WRITE` is an `SQLITE_IOERR`. */
const plain = (code: string): string => /^SQLITE_[A-Z]+/.exec(code)?.[0] ?? code

export const isLocked = (error: unknown): boolean => faultOf(error)?.kind === 'locked'
