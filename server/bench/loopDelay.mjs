/** Loaded in front of a server: measures the delay of its event loop between “begin” and “end”, told by its parent. */
import { monitorEventLoopDelay } from 'node:perf_hooks'

const delay = monitorEventLoopDelay({ resolution: 1 })

process.on('message', (word) => {
  if (word === 'begin') {
    delay.reset()
    delay.enable()
  } else {
    delay.disable()
    process.send([delay.percentile(50) / 1e6, delay.percentile(99) / 1e6, delay.max / 1e6])
  }
})
// The parent ends it; the channel must not keep it alive.
process.channel?.unref()
