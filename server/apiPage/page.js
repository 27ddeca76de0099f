// The viewer reads the description that the server gives to programs.
const { src } = /** @type {HTMLScriptElement} */ (document.currentScript)
// oxlint-disable-next-line no-unsafe-call -- the viewer has no types
window.SwaggerUIBundle({
  url: new URL('../openapi.json', src).href,
  dom_id: '#api',
  deepLinking: true,
  docExpansion: 'list',
  defaultModelsExpandDepth: 0,
  // What is tried here is done: a page that is only looked at changes nothing.
  supportedSubmitMethods: ['get'],
  validatorUrl: null,
})
