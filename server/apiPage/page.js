// The viewer reads the description that the server gives to programs.
// oxlint-disable-next-line no-unsafe-call -- the viewer has no types
window.SwaggerUIBundle({
  url: '/api/openapi.json',
  dom_id: '#api',
  deepLinking: true,
  docExpansion: 'list',
  defaultModelsExpandDepth: 0,
  // What is tried here is done: a page that is only looked at changes nothing.
  supportedSubmitMethods: ['get'],
  validatorUrl: null,
})
