/** How many cases a test of chance draws: a few in `npm test`, on seeds that stay; many in `npm run fuzz`. */
export const drawn = (few: number, many: number): number =>
  process.env['SALTLINE_RUNS'] === undefined ? few : many
