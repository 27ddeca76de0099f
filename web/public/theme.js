// Before the first paint, so that a dark shack is not lit up: the remembered theme, or the system's.
;(function () {
  var theme = null
  try {
    theme = (JSON.parse(localStorage.getItem('saltline.preferences')) || {}).theme
  } catch {
    // Storage may be closed to us; the system's theme will do.
  }
  var dark =
    theme === 'night' || (theme !== 'day' && matchMedia('(prefers-color-scheme: dark)').matches)
  document.documentElement.dataset.theme = dark ? 'night' : 'day'
})()
