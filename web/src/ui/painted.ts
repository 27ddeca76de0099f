/** Resolves when what React has put into the page is on the screen: after the next frame. */
export const painted = (): Promise<void> =>
  new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))
