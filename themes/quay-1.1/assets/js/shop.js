/* What scripts add to the shop: without them every link and form works as it is. */

/* The gallery: slides are scrolled by swiping, by keys and by dragging; a thumbnail leads to its slide. */
function gallery(root) {
  var slides = root.querySelector('ul.slides');
  if (!slides) return;
  var all = slides.querySelectorAll('.slide');
  var thumbs = root.querySelectorAll('.thumbs a');
  function at() { return Math.round(slides.scrollLeft / (slides.clientWidth || 1)); }
  function go(to, smooth) {
    var n = Math.max(0, Math.min(all.length - 1, to));
    slides.scrollTo({ left: n * slides.clientWidth, behavior: smooth ? 'smooth' : 'auto' });
  }
  function mark() {
    var here = at();
    thumbs.forEach(function (thumb, n) {
      if (n === here) {
        if (!thumb.hasAttribute('aria-current')) {
          thumb.setAttribute('aria-current', 'true');
          var row = thumb.closest('.thumbs');
          row.scrollTo({ left: thumb.offsetLeft - row.clientWidth / 2 + thumb.offsetWidth / 2, behavior: 'smooth' });
        }
      } else thumb.removeAttribute('aria-current');
    });
  }
  slides.addEventListener('scroll', mark, { passive: true });
  slides.addEventListener('keydown', function (event) {
    if (event.key !== 'ArrowRight' && event.key !== 'ArrowLeft') return;
    event.preventDefault();
    go(at() + (event.key === 'ArrowRight' ? 1 : -1), true);
  });
  thumbs.forEach(function (thumb, n) {
    thumb.addEventListener('click', function (event) { event.preventDefault(); go(n, true); });
  });
  var from = null;
  slides.addEventListener('pointerdown', function (event) {
    if (event.pointerType !== 'mouse' || event.button !== 0 || event.target.closest('iframe, video')) return;
    from = { x: event.clientX, left: slides.scrollLeft, page: at() };
    slides.classList.add('is-dragged');
    slides.setPointerCapture(event.pointerId);
  });
  slides.addEventListener('pointermove', function (event) {
    if (from) slides.scrollLeft = from.left - (event.clientX - from.x);
  });
  function drop(event) {
    if (!from) return;
    var moved = event.clientX - from.x;
    slides.classList.remove('is-dragged');
    go(from.page + (moved < -40 ? 1 : moved > 40 ? -1 : 0), true);
    from = null;
  }
  slides.addEventListener('pointerup', drop);
  slides.addEventListener('pointercancel', drop);
  slides.addEventListener('dragstart', function (event) { event.preventDefault(); });
}
document.querySelectorAll('.gallery').forEach(gallery);

/* Choosing a variant: only what depends on it is fetched anew, from a served piece; the address says what is chosen. */
document.querySelectorAll('[data-chosen]').forEach(function (product) {
  function show(address, push) {
    var variant = new URL(address, location.href).searchParams.get('variant') || '';
    var from = product.dataset.chosen;
    product.setAttribute('aria-busy', 'true');
    return fetch(from + (from.indexOf('?') < 0 ? '?' : '&') + 'variant=' + encodeURIComponent(variant))
      .then(function (answer) { if (!answer.ok) throw new Error(answer.status); return answer.text(); })
      .then(function (html) {
        var made = document.createElement('template');
        made.innerHTML = html;
        var quantity = product.querySelector('[data-part=order] [name=quantity]');
        var wanted = quantity && quantity.value;
        made.content.querySelectorAll('[data-part]').forEach(function (part) {
          var old = product.querySelector('[data-part="' + part.dataset.part + '"]');
          if (!old) return;
          var focused = old.contains(document.activeElement) && document.activeElement.textContent;
          old.replaceWith(part);
          if (part.dataset.part === 'gallery') gallery(part);
          if (focused) part.querySelectorAll('a').forEach(function (link) { if (link.textContent === focused) link.focus(); });
        });
        var field = product.querySelector('[data-part=order] [name=quantity]');
        if (field && wanted && Number(wanted) <= Number(field.max)) field.value = wanted;
        if (push) history.pushState(null, '', address);
      })
      .catch(function () { location.href = address; })
      .finally(function () { product.removeAttribute('aria-busy'); });
  }
  product.addEventListener('click', function (event) {
    var link = event.target.closest('a[data-choice]');
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey || event.button) return;
    event.preventDefault();
    show(link.href, true);
  });
  addEventListener('popstate', function () { if (product.querySelector('a[data-choice]')) show(location.href, false); });
});

/* A link to a tab opens it. */
function openTab() {
  var radio = /^#tab-/.test(location.hash) && document.getElementById(location.hash.slice(1));
  if (radio && radio.type === 'radio') radio.checked = true;
}
addEventListener('hashchange', openTab);
openTab();
