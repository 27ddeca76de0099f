// A sweep that was measured in the shack, carried through the cable to the feed point.
import { cableClasses, carryToFeedPoint, readTouchstone, writeTouchstone } from '@saltline/core'

const measured = readTouchstone(
  '# MHz S RI R 50\n8.0 0.10 0.05\n8.3 0.05 -0.10\n8.6 -0.02 -0.15\n',
  50,
)
const cable = cableClasses.find(({ id }) => id === 'pe-5')
const carried = carryToFeedPoint(measured, [{ kind: 'line', cable, lengthM: 17 }])
if (!carried.possible) throw new Error(carried.message)
console.log(writeTouchstone(carried.sweep))
