const special = /[&<>"']/;
const written: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };

/** Text as it stands in HTML, in text and in attributes alike: `& < > " '` as entities, lone surrogates as U+FFFD. */
export function escapeText(text: string): string {
  const well = wellFormed(text);
  if (!special.test(well)) return well;
  let out = '';
  let run = 0;
  for (let at = 0; at < well.length; at++) {
    const code = well.charCodeAt(at);
    if (code !== 38 && code !== 60 && code !== 62 && code !== 34 && code !== 39) continue;
    out += well.slice(run, at) + (written[well[at] as string] as string);
    run = at + 1;
  }
  return out + well.slice(run);
}

/** Lone surrogates, which no UTF-8 can write, as U+FFFD. */
export function wellFormed(text: string): string {
  return text.isWellFormed() ? text : text.toWellFormed();
}
