/* Suggestions while one writes, fetched from a served piece. Without scripts the field is a plain search. */
document.querySelectorAll('form[data-suggestions]').forEach(function (form) {
  var input = form.querySelector('input[type=search]');
  var box = form.querySelector('.quick-found');
  var at = -1;
  var timer, asked;
  input.setAttribute('role', 'combobox');
  input.setAttribute('aria-expanded', 'false');
  input.setAttribute('aria-autocomplete', 'list');
  box.id = 'quick-found';
  input.setAttribute('aria-controls', box.id);
  function options() { return Array.prototype.slice.call(box.querySelectorAll('[role=option]')); }
  function mark(to) {
    var all = options();
    at = all.length ? (to + all.length + 1) % (all.length + 1) : -1;
    if (at === all.length) at = -1;
    all.forEach(function (one, n) { one.setAttribute('aria-selected', n === at ? 'true' : 'false'); });
    if (at >= 0) { input.setAttribute('aria-activedescendant', all[at].id); all[at].scrollIntoView({ block: 'nearest' }); }
    else input.removeAttribute('aria-activedescendant');
  }
  function close() { box.hidden = true; input.setAttribute('aria-expanded', 'false'); mark(-1); }
  function ask() {
    var words = input.value.trim();
    if (words.length < 2) return close();
    if (asked) asked.abort();
    asked = new AbortController();
    var from = form.dataset.suggestions;
    fetch(from + (from.indexOf('?') < 0 ? '?' : '&') + 'q=' + encodeURIComponent(words), { signal: asked.signal })
      .then(function (answer) { if (!answer.ok) throw new Error(answer.status); return answer.text(); })
      .then(function (html) {
        box.innerHTML = html;
        box.hidden = false;
        at = -1;
        input.setAttribute('aria-expanded', 'true');
      })
      .catch(function (error) { if (error.name !== 'AbortError') close(); });
  }
  input.addEventListener('input', function () { clearTimeout(timer); timer = setTimeout(ask, 120); });
  input.addEventListener('keydown', function (event) {
    if (box.hidden) { if (event.key === 'ArrowDown') ask(); return; }
    if (event.key === 'ArrowDown') { event.preventDefault(); mark(at + 1); }
    else if (event.key === 'ArrowUp') { event.preventDefault(); mark(at < 0 ? options().length - 1 : at - 1); }
    else if (event.key === 'Escape') { event.preventDefault(); close(); }
    else if (event.key === 'Enter' && at >= 0) { event.preventDefault(); options()[at].querySelector('a').click(); }
  });
  document.addEventListener('click', function (event) { if (!form.contains(event.target)) close(); });
  form.addEventListener('focusout', function (event) { if (event.relatedTarget && !form.contains(event.relatedTarget)) close(); });
});
