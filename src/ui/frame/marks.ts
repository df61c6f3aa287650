import type { Box, Pointed } from '@/contract/frame';

/** Attribute by which the frame's own elements are known: they are not part of the page. */
export const own = 'data-last-own';
export const markName = 'data-last-at';

/** A mark with its view: `7~12.3` is mark 12.3 of the piece that was fetched as view 7. */
export function readMarked(text: string): { mark: string; view: string | null } {
  const at = text.indexOf('~');
  return at < 0 ? { mark: text, view: null } : { mark: text.slice(at + 1), view: text.slice(0, at) };
}

export const written = (mark: string, view: string | null): string => (view === null ? mark : `${view}~${mark}`);

export interface Spot {
  text: string;
  boxes: Box[];
}

const boxOf = ({ x, y, width, height }: DOMRect): Box => ({ x, y, width, height });

/** Where an element is seen: its own box, or those of what it holds when it has none itself (`display: contents`). */
export function boxesOf(element: Element): Box[] {
  const boxes = [...element.getClientRects()].filter(({ width, height }) => width > 0 || height > 0);
  if (boxes.length) return [boxOf(element.getBoundingClientRect())];
  const range = document.createRange();
  range.selectNodeContents(element);
  const inside = range.getBoundingClientRect();
  return inside.width || inside.height ? [boxOf(inside)] : [];
}

/** A value in running text is marked by comments around it. */
function valueRange(comment: Comment): Range | null {
  let end: Node | null = comment.nextSibling;
  let depth = 0;
  while (end && !(depth === 0 && end.nodeType === Node.COMMENT_NODE && end.nodeValue === '/last')) {
    if (end.nodeType === Node.COMMENT_NODE && end.nodeValue?.startsWith('last ')) depth++;
    else if (end.nodeType === Node.COMMENT_NODE && end.nodeValue === '/last') depth--;
    end = end.nextSibling;
  }
  if (!end) return null;
  const range = document.createRange();
  range.setStartAfter(comment);
  range.setEndBefore(end);
  return range;
}

const holds = ({ x, y, width, height }: DOMRect, px: number, py: number) =>
  px >= x && px <= x + width && py >= y && py <= y + height;

/** What is marked at a point: a value in running text, else the nearest marked element. */
export function spotAt(target: Element | null, x: number, y: number): Spot | null {
  for (let at = target; at; at = at.parentElement) {
    for (const node of at.childNodes) {
      if (node.nodeType !== Node.COMMENT_NODE || !node.nodeValue?.startsWith('last ')) continue;
      const range = valueRange(node as Comment);
      const hit = range && [...range.getClientRects()].some((box) => holds(box, x, y));
      if (range && hit) return { text: node.nodeValue.slice(5), boxes: [...range.getClientRects()].map(boxOf) };
    }
    const text = at.getAttribute(markName);
    if (text) return { text, boxes: boxesOf(at) };
  }
  return null;
}

export function pointedOf({ text, boxes }: Spot): Pointed {
  const { mark, view } = readMarked(text);
  return { mark, view, box: boxes[0] ?? { x: 0, y: 0, width: 0, height: 0 } };
}

/** Every marked spot of the page, by its mark. */
export function spotsOf(wanted: ReadonlySet<string>): Map<string, { boxes: () => Box[]; node: Node }> {
  const found = new Map<string, { boxes: () => Box[]; node: Node }>();
  for (const element of document.querySelectorAll(`[${markName}]`)) {
    const text = element.getAttribute(markName) as string;
    if (wanted.has(text)) found.set(text, { boxes: () => boxesOf(element), node: element });
  }
  if (found.size === wanted.size) return found;
  const walker = document.createTreeWalker(document.documentElement, NodeFilter.SHOW_COMMENT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.nodeValue?.startsWith('last ') ? node.nodeValue.slice(5) : null;
    if (text === null || !wanted.has(text)) continue;
    const comment = node as Comment;
    found.set(text, { boxes: () => [...(valueRange(comment)?.getClientRects() ?? [])].map(boxOf), node });
  }
  return found;
}

/** Marked elements that can be walked with the arrow keys: those that are seen. */
export function walkable(): Element[] {
  return [...document.body.querySelectorAll(`[${markName}]`)].filter(
    (element) => !element.closest(`[${own}]`) && boxesOf(element).some(({ width, height }) => width > 2 && height > 2),
  );
}
