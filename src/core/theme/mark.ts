/** The text of a JSON file as it is read: a byte order mark at its start counts as white space. Offsets stay what they are. */
export const unmarked = (text: string): string => (text.charCodeAt(0) === 0xfeff ? ` ${text.slice(1)}` : text);
