/* The gallery: a thumbnail shows its picture large. Without scripts the thumbnail is a link to the picture. */
document.querySelectorAll('[data-gallery]').forEach(function (gallery) {
  var main = gallery.querySelector('[data-gallery-main]');
  if (!main) return;
  gallery.querySelectorAll('[data-gallery-thumb]').forEach(function (thumb) {
    thumb.addEventListener('click', function (event) {
      event.preventDefault();
      main.src = thumb.href;
      main.alt = thumb.querySelector('img').alt;
      gallery.querySelectorAll('[data-gallery-thumb]').forEach(function (other) {
        other.removeAttribute('aria-current');
      });
      thumb.setAttribute('aria-current', 'true');
    });
  });
});
