/** Brings chain documents of older versions to the present one, a step a version. */

type Raw = Record<string, unknown>

const isRaw = (value: unknown): value is Raw =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** From the version of the key to the next. A step touches what changed and leaves the rest. */
const steps: Record<number, (document: Raw) => Raw> = {
  // Version 2 tells plain from processed voice; version 1 had one word for both.
  1: (document) => ({
    ...document,
    channels: Array.isArray(document['channels'])
      ? document['channels'].map((channel: unknown) =>
          isRaw(channel) && channel['mode'] === 'voice'
            ? { ...channel, mode: 'voice-plain' }
            : channel,
        )
      : document['channels'],
  }),
  // Version 3 keeps alternatives; version 2 had none.
  2: (document) => document,
}

/** The document in the newest version that its own can be brought to; what is unknown stays as it is. */
export function migrateChainDocument(value: unknown): unknown {
  let document = value
  while (isRaw(document)) {
    const version = document['version']
    const step = typeof version === 'number' ? steps[version] : undefined
    if (!step) break
    document = { ...step(document), version: (version as number) + 1 }
  }
  return document
}
