/** Where a browser finds the end of what it reads as text: comments, scripts, and the insides of titles and the like (HTML standard, 13.2.5). */

/** Offset after an HTML comment that begins at `from`, or -1 (HTML standard, 13.2.5.43 to 52). */
export function htmlCommentEnd(text: string, from: number, unended: boolean): number {
  if (text.startsWith('>', from + 4)) return from + 5;
  if (text.startsWith('->', from + 4)) return from + 6;
  if (unended) return -1;
  const end = /--!?>/g;
  end.lastIndex = from + 4;
  return end.exec(text) ? end.lastIndex : -1;
}

/** Offset of an end tag of this name, from an offset on; -1 when there is none. */
export function endTagOf(text: string, name: string, from: number): number {
  const pattern = new RegExp(`</${name}(?=[\\s/>])`, 'gi');
  pattern.lastIndex = from;
  return pattern.exec(text)?.index ?? -1;
}

/** Whether this text stays inside a script or style, by HTML and by SVG, and leaves it to its own end tag to end it. */
export function staysRaw(name: string, text: string): boolean {
  const whole = `${text}</${name}>`;
  if (name === 'script' && scriptEnd(whole, 0) !== text.length) return false;
  return endTagOf(whole, name, 0) === text.length;
}

/** The end tag that ends a script: one inside `<!-- <script>` belongs to the inner (HTML standard, script data states). */
export function scriptEnd(text: string, from: number): number {
  const pattern = /<!--|-->|<(\/?)script(?=[\s/>])/gi;
  pattern.lastIndex = from;
  let escaped = false;
  let double = false;
  for (let match = pattern.exec(text); match; match = pattern.exec(text)) {
    if (match[0] === '<!--') escaped = true;
    else if (match[0] === '-->') escaped = double = false;
    else if (match[1] === '') double = escaped;
    else if (double) double = false;
    else return match.index;
  }
  return -1;
}
