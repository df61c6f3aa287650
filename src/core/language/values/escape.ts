/** Signs that HTML gives a meaning, and surrogates: most texts hold none of either, and are done with one look. */
const special = /[&<>"'\ud800-\udfff]/;

/** Text as it stands in HTML, in text and in attributes alike: `& < > " '` as entities, lone surrogates as U+FFFD. */
export function escapeText(text: string): string {
  return special.test(text) ? escapeSigns(wellFormed(text)) : text;
}

function escapeSigns(text: string): string {
  let out = '';
  let run = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    // Letters, which most signs are, lie above all five.
    if (code > 62) continue;
    let sign: string;
    if (code === 38) sign = '&amp;';
    else if (code === 39) sign = '&#39;';
    else if (code === 34) sign = '&quot;';
    else if (code === 60) sign = '&lt;';
    else if (code === 62) sign = '&gt;';
    else continue;
    out += run < at ? text.slice(run, at) + sign : sign;
    run = at + 1;
  }
  return run < text.length ? out + text.slice(run) : out;
}

/** Lone surrogates, which no UTF-8 can write, as U+FFFD. */
export function wellFormed(text: string): string {
  return text.isWellFormed() ? text : text.toWellFormed();
}
