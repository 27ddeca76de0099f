/** The address of a worker; see web/sharedWorker.ts. */
declare module '*?shared' {
  const url: string
  export default url
}
