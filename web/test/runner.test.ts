/** Requests in a worker, with real message channels in the worker's place. */
import { expose } from 'comlink'
import { afterEach, describe, expect, test, vi } from 'vitest'
import { Pool } from '../src/compute/pool.ts'
import { type Run, Runner } from '../src/compute/runner.ts'

interface Fake {
  ended: boolean
  worker: Worker
  /** Lets the request that runs come to its end. */
  finish: (value: string | Error) => void
  asked: string[]
  progress: (done: number) => void
}

const fakes: Fake[] = []
afterEach(() => {
  fakes.splice(0).forEach(({ worker }) => worker.terminate())
})

function begin(): Worker {
  const { port1, port2 } = new MessageChannel()
  const worker = Object.assign(port1, {
    terminate: () => {
      fake.ended = true
      port1.close()
      port2.close()
    },
  }) as unknown as Worker
  port1.start()
  const fake: Fake = {
    ended: false,
    worker,
    asked: [],
    finish: () => undefined,
    progress: () => undefined,
  }
  expose(
    {
      run: (task: string, request: { name: string }, progress: (done: number) => void) => {
        fake.asked.push(`${task} ${request.name}`)
        fake.progress = progress
        return new Promise((done, fail) => {
          fake.finish = (value) => (value instanceof Error ? fail(value) : done(value))
        })
      },
    },
    port2,
  )
  fakes.push(fake)
  return worker
}

type Told = [string, Run<string>][]
function runner(whenBusy: 'end' | 'wait', workers = new Pool(begin)) {
  const told: Told = []
  const progress: number[] = []
  const own = new Runner<{ name: string }, string>(
    'think',
    {
      progress: (_, done) => progress.push(done),
      tell: ({ name }, run) => told.push([name, run]),
    },
    whenBusy,
    workers,
  )
  return { own, told, progress }
}

const asked = (of: number, names: string[]) =>
  vi.waitFor(() => expect(fakes[of]?.asked).toEqual(names.map((name) => `think ${name}`)))
const toldOf = (told: Told, state: string) => told.filter(([, run]) => run.state === state)

describe('a worker', () => {
  test('tells progress and result with the request that they answer', async () => {
    const { own, told, progress } = runner('end')
    own.ask({ name: 'a' })
    await asked(0, ['a'])
    fakes[0]!.progress(0.5)
    await vi.waitFor(() => expect(progress).toEqual([0, 0.5]))
    expect(told).toEqual([])
    fakes[0]!.finish('A')
    await vi.waitFor(() => expect(told.at(-1)).toEqual(['a', { state: 'done', value: 'A' }]))
  })

  test('says what was thrown in it, and goes on', async () => {
    const { own, told } = runner('end')
    own.ask({ name: 'a' })
    await asked(0, ['a'])
    fakes[0]!.finish(new Error('No cable is that long.'))
    await vi.waitFor(() =>
      expect(told.at(-1)).toEqual(['a', { state: 'problem', message: 'No cable is that long.' }]),
    )
    own.ask({ name: 'b' })
    await asked(0, ['a', 'b'])
  })

  test('is ended by a newer request where work is long, and never answers for it', async () => {
    const { own, told } = runner('end')
    own.ask({ name: 'a' })
    await asked(0, ['a'])
    own.ask({ name: 'b' })
    expect(fakes[0]!.ended).toBe(true)
    await asked(1, ['b'])
    fakes[0]!.finish('A')
    fakes[1]!.finish('B')
    await vi.waitFor(() =>
      expect(toldOf(told, 'done')).toEqual([['b', { state: 'done', value: 'B' }]]),
    )
  })

  test('finishes short work, then runs the newest request alone', async () => {
    const { own, told } = runner('wait')
    for (const name of ['a', 'b', 'c', 'd']) own.ask({ name })
    await asked(0, ['a'])
    fakes[0]!.finish('A')
    await asked(0, ['a', 'd'])
    fakes[0]!.finish('D')
    await vi.waitFor(() => expect(toldOf(told, 'done').map(([name]) => name)).toEqual(['a', 'd']))
    expect(fakes).toHaveLength(1)
  })

  test('is stopped with a word, ended without one', async () => {
    const { own, told } = runner('end')
    own.ask({ name: 'a' })
    await asked(0, ['a'])
    own.stop()
    expect(told.at(-1)).toEqual(['a', { state: 'stopped' }])
    own.ask({ name: 'b' })
    await asked(1, ['b'])
    const before = told.length
    own.end()
    expect(fakes[1]!.ended).toBe(true)
    expect(told).toHaveLength(before)
  })

  test('that is free does the next task, whoever asks; one that was ended does not', async () => {
    const workers = new Pool(begin)
    const first = runner('end', workers)
    first.own.ask({ name: 'a' })
    await asked(0, ['a'])
    const second = runner('end', workers)
    second.own.ask({ name: 'b' })
    await asked(1, ['b'])
    fakes[0]!.finish('A')
    await vi.waitFor(() => expect(first.told).toEqual([['a', { state: 'done', value: 'A' }]]))
    second.own.end()
    second.own.ask({ name: 'c' })
    await asked(0, ['a', 'c'])
    // What is left of the first does not reach into the task of the second.
    first.own.end()
    expect(fakes[0]!.ended).toBe(false)
    fakes[0]!.finish('C')
    await vi.waitFor(() => expect(second.told).toEqual([['c', { state: 'done', value: 'C' }]]))
    expect(fakes).toHaveLength(2)
  })

  test('keeps two that wait, and ends the others', async () => {
    const workers = new Pool(begin)
    const three = ['a', 'b', 'c'].map((name) => {
      const each = runner('end', workers)
      each.own.ask({ name })
      return each
    })
    for (const [i, name] of ['a', 'b', 'c'].entries()) await asked(i, [name])
    for (const fake of fakes) fake.finish('done')
    await vi.waitFor(() => expect(three.map(({ told }) => told.length)).toEqual([1, 1, 1]))
    expect(fakes.filter(({ ended }) => ended)).toHaveLength(1)
  })

  test('that cannot begin is a problem', () => {
    const { own, told } = runner('end')
    own.ask({ name: 'a' })
    fakes[0]!.worker.onerror!({ message: 'not found' } as ErrorEvent)
    expect(told.at(-1)).toEqual(['a', { state: 'problem', message: 'not found' }])
  })
})
