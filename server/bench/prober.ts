/** Asks a server for something small every few milliseconds, between “begin” and “end”, and tells how long it waited. */
import { Agent, get } from 'node:http'

const agent = new Agent({ keepAlive: true })
const [, , base, cookie] = process.argv
const headers = cookie ? { cookie } : {}
let waits: number[] | undefined

async function ask(own: number[]): Promise<void> {
  while (waits === own) {
    const began = performance.now()
    await new Promise<void>((done, fail) =>
      get(`${base}/api/stations`, { agent, headers }, (answer) =>
        answer.resume().on('end', done),
      ).on('error', fail),
    )
    own.push(performance.now() - began)
    await new Promise((done) => setTimeout(done, 5))
  }
}

process.on('message', (word) => {
  if (word === 'begin') {
    waits = []
    void ask(waits)
  } else {
    process.send!(waits)
    waits = undefined
  }
})

process.send!('ready')
