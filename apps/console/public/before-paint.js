// Before anything is drawn: the light that was chosen on this device, so that no night is ended by a white page.
(function () {
  var light = matchMedia('(prefers-color-scheme: dark)').matches ? 'dusk' : 'day';
  try {
    var kept = JSON.parse(localStorage.getItem('tombolo-light')).state.light;
    if (kept === 'day' || kept === 'dusk' || kept === 'watch') light = kept;
  } catch {
    // Nothing is kept, or it cannot be read.
  }
  document.documentElement.dataset.light = light;
})();
