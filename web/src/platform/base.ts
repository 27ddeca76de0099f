/** Where Salt Line lies on its host: at its root, or below a path that a reverse proxy shows it under. */

/** Begins and ends with a slash. Built scripts lie in `assets/` right below it. */
export const BASE: string = import.meta.env.DEV
  ? '/'
  : new URL(/* @vite-ignore */ '..', import.meta.url).pathname

/** An address of this Salt Line, from one below its root: `/api/stations`. */
export const address = (path: string): string => BASE + path.slice(1)
