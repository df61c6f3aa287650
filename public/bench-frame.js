/* Runs in a page that the Bench shows in its frame: says which page it is and where it is scrolled to, and goes there when told. */
(function () {
  if (window.parent === window) return;
  var say = function (message) {
    message.last = true;
    window.parent.postMessage(message, '*');
  };
  var style = document.createElement('style');
  style.textContent =
    '[data-last-notice]{display:inline-block;max-width:100%;padding:4px 10px;border:1px solid #b0122b;border-radius:6px;background:#fffdf8;color:#b0122b;font:13px/1.4 sans-serif}' +
    '[data-last-notice]::before{content:"! ";font-weight:700}' +
    '.last-told{position:fixed;left:16px;right:16px;bottom:16px;z-index:2147483647;padding:12px 16px;border-radius:8px;background:#2a231c;color:#fffdf8;font:15px/1.45 sans-serif}';
  (document.head || document.documentElement).appendChild(style);
  var told = false;
  var here = function () {
    say({ kind: 'scroll', x: window.scrollX, y: window.scrollY });
  };
  window.addEventListener('scroll', here, { passive: true });
  window.addEventListener('message', function (event) {
    if (event.source !== window.parent || !event.data || !event.data.last) return;
    if (event.data.kind === 'scroll') {
      told = true;
      window.scrollTo({ left: event.data.x, top: event.data.y, behavior: 'instant' });
      say({ kind: 'placed' });
    }
  });
  var ready = function () {
    say({ kind: 'ready', address: location.pathname + location.search + location.hash, told: told });
  };
  if (document.readyState === 'complete') ready();
  else window.addEventListener('load', ready);
  // The frame has no cookie of the shop's: what a form changes would not be found again.
  window.addEventListener('submit', function (event) {
    if (!event.target || String(event.target.method).toLowerCase() !== 'post') return;
    event.preventDefault();
    var old = document.querySelector('.last-told');
    if (old) old.remove();
    var told = document.createElement('p');
    told.className = 'last-told';
    told.setAttribute('role', 'status');
    told.textContent =
      'Nobody shops on the Bench. To try the form, open this page in a tab of its own: ' + location.href;
    document.body.appendChild(told);
    setTimeout(function () {
      told.remove();
    }, 12000);
  });
  window.addEventListener('keydown', function (event) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      say({ kind: 'go' });
    }
  });
})();
