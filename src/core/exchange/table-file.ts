/** How a text file's bytes stand for letters. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/**
 * The encoding of a text file by its first bytes: what its byte order mark says, else UTF-16 where every other byte is zero, else
 * UTF-8 where they can be read so, else Windows-1252. `sure`: the bytes leave no doubt; otherwise people are told.
 */
export function encodingOf(head: Uint8Array): { encoding: Encoding; sure: boolean } {
  const [first, second, third] = head;
  if (first === 0xef && second === 0xbb && third === 0xbf) return { encoding: 'utf-8', sure: true };
  if (first === 0xff && second === 0xfe) return { encoding: 'utf-16le', sure: true };
  if (first === 0xfe && second === 0xff) return { encoding: 'utf-16be', sure: true };
  const zeros = (from: number) => {
    let count = 0;
    for (let at = from; at < head.length; at += 2) if (head[at] === 0) count++;
    return count / Math.max(1, head.length / 2);
  };
  if (zeros(1) > 0.3) return { encoding: 'utf-16le', sure: false };
  if (zeros(0) > 0.3) return { encoding: 'utf-16be', sure: false };
  return isUtf8(head) ? { encoding: 'utf-8', sure: true } : { encoding: 'windows-1252', sure: false };
}

/** Whether bytes are UTF-8; a letter that the end cuts in two is not looked at. */
function isUtf8(head: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(head, { stream: true });
    return true;
  } catch {
    return false;
  }
}

const delimiters = [',', ';', '\t', '|'] as const;

/** What stands between the cells of a table: the sign that its first lines have most often, and equally often, outside quotes. */
export function delimiterOf(head: string): string {
  const lines: string[] = [];
  let [line, quoted] = ['', false];
  for (const letter of head) {
    if (letter === '"') quoted = !quoted;
    if (!quoted && (letter === '\n' || letter === '\r')) {
      if (line) lines.push(line);
      line = '';
      if (lines.length > 20) break;
    } else if (!quoted) line += letter;
  }
  if (!lines.length && line) lines.push(line);
  const score = (delimiter: string) => {
    const counts = lines.map((one) => one.split(delimiter).length - 1);
    const [heading = 0] = counts;
    return heading && counts.filter((count) => count === heading).length * heading;
  };
  return [...delimiters].sort((a, b) => score(b) - score(a))[0] as string;
}
