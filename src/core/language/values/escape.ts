/** Signs that HTML gives a meaning, and surrogates: most texts hold none of either, and are done with one look. */
const special = /[&<>"'\ud800-\udfff]/;

/** Text as it stands in HTML, in text and in attributes alike: `& < > " '` as entities, lone surrogates as U+FFFD. */
export function escapeText(text: string): string {
  const first = text.search(special);
  return first < 0 ? text : escapeFrom(first, wellFormed(text));
}

function escapeFrom(first: number, text: string): string {
  let out = '';
  let run = 0;
  for (let at = first; at < text.length; at++) {
    let sign = '';
    switch (text.charCodeAt(at)) {
      case 38:
        sign = '&amp;';
        break;
      case 60:
        sign = '&lt;';
        break;
      case 62:
        sign = '&gt;';
        break;
      case 34:
        sign = '&quot;';
        break;
      case 39:
        sign = '&#39;';
        break;
      default:
        continue;
    }
    out += run < at ? text.slice(run, at) + sign : sign;
    run = at + 1;
  }
  return run < text.length ? out + text.slice(run) : out;
}

/** Lone surrogates, which no UTF-8 can write, as U+FFFD. */
export function wellFormed(text: string): string {
  return text.isWellFormed() ? text : text.toWellFormed();
}
