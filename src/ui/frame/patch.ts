import morphdom from 'morphdom';
import { markName, own } from './marks';

/**
 * Puts a newer page in place of the one shown, changing only what differs: what a visitor typed, scrolled to or opened, and
 * what the theme's scripts changed, stays where the template did not change.
 */
export class Patcher {
  /** The attributes that the server sent of each element: what differs from them, scripts changed. */
  readonly #sent = new WeakMap<Element, Map<string, string>>();
  /** Elements that came with a page, those too that have no mark: of rich text, or made by the browser where tags do not nest. */
  readonly #ours = new WeakSet<Element>();
  readonly #coming = new Map<HTMLLinkElement, HTMLLinkElement>();

  constructor() {
    // From the first moment: scripts of the page run later than its elements come in.
    new MutationObserver((records) => {
      for (const { addedNodes } of records) for (const node of addedNodes) this.#note(node);
    }).observe(document, { childList: true, subtree: true });
    this.#note(document.documentElement);
  }

  #note(node: Node): void {
    if (!(node instanceof Element)) return;
    // Scripts of the page add theirs once it is read.
    if (document.readyState === 'loading') this.#own(node);
    const marked = node.hasAttribute(markName) ? [node] : [];
    for (const element of [...marked, ...node.querySelectorAll(`[${markName}]`)]) {
      if (!this.#sent.has(element) && !element.getAttribute(markName)?.includes('~'))
        this.#sent.set(element, attributesOf(element));
    }
  }

  #own(element: Element): void {
    this.#ours.add(element);
    for (const inner of element.querySelectorAll('*')) this.#ours.add(inner);
  }

  /** Shows this page; says whether its scripts are other ones, which a page that stands cannot take over. */
  show(html: string): boolean {
    const next = new DOMParser().parseFromString(html, 'text/html');
    // The script that runs here stands in what the server sends as a page, not in what it sends to be shown.
    const here = document.querySelector('script[data-view]');
    if (here) next.head.prepend(here.cloneNode(true));
    const scripts = scriptsOf(document) !== scriptsOf(next);
    this.#own(next.documentElement);
    for (const link of this.#coming.values()) link.remove();
    this.#coming.clear();
    morphdom(document.documentElement, next.documentElement, {
      // An id that a script gave is not in the page that comes: its element would not be found there, and be made again.
      getNodeKey: (node) => {
        const sent = this.#sent.get(node as Element);
        return sent ? sent.get('id') : (node as Partial<Element>).id;
      },
      onBeforeElUpdated: (from, to) => this.#before(from, to),
      onBeforeNodeDiscarded: (node) =>
        !(node instanceof Element) ||
        (!node.hasAttribute(own) && (this.#sent.has(node) || this.#ours.has(node) || node.tagName === 'SCRIPT')),
    });
    return scripts;
  }

  #before(from: HTMLElement, to: HTMLElement): boolean {
    if (from.hasAttribute(own)) return false;
    this.#ours.add(from);
    if (from.tagName === 'SCRIPT' && from.hasAttribute('data-view')) return false;
    const sent = this.#sent.get(from);
    const next = attributesOf(to);
    if (sent) keepScripted(from, to, sent, next);
    if (from instanceof HTMLInputElement && to instanceof HTMLInputElement) keepInput(from, to, sent, next);
    else if (
      from instanceof HTMLTextAreaElement &&
      to instanceof HTMLTextAreaElement &&
      from.defaultValue === to.defaultValue
    )
      to.value = from.value;
    else if (from instanceof HTMLLinkElement && to instanceof HTMLLinkElement && this.#sheet(from, to)) {
      this.#sent.set(from, next);
      return false;
    }
    this.#sent.set(from, next);
    return true;
  }

  /** A style sheet of another version is loaded beside the one that shows, which leaves when it is there: nothing blinks. */
  #sheet(from: HTMLLinkElement, to: HTMLLinkElement): boolean {
    if (from.rel !== 'stylesheet' || to.rel !== 'stylesheet') return false;
    if (from.getAttribute('href') === to.getAttribute('href')) return false;
    const link = to.cloneNode() as HTMLLinkElement;
    this.#coming.set(from, link);
    link.addEventListener('load', () => {
      if (this.#coming.get(from) !== link) return;
      this.#coming.delete(from);
      from.remove();
    });
    queueMicrotask(() => from.after(link));
    return true;
  }
}

const attributesOf = (element: Element): Map<string, string> =>
  new Map([...element.attributes].map(({ name, value }) => [name, value]));

/** Where a script changed an attribute and the template did not, the script's stays. */
function keepScripted(from: Element, to: Element, sent: Map<string, string>, next: Map<string, string>): void {
  for (const { name, value } of from.attributes) {
    if (sent.get(name) !== value && next.get(name) === sent.get(name)) to.setAttribute(name, value);
  }
  for (const [name, value] of sent) {
    if (!from.hasAttribute(name) && next.get(name) === value) to.removeAttribute(name);
  }
}

function keepInput(
  from: HTMLInputElement,
  to: HTMLInputElement,
  sent: Map<string, string> | undefined,
  next: Map<string, string>,
): void {
  if (!sent || sent.get('value') === next.get('value')) to.value = from.value;
  if (!sent || sent.has('checked') === next.has('checked')) to.checked = from.checked;
}

const scriptsOf = (page: Document): string =>
  [...page.querySelectorAll('script:not([data-view])')]
    .filter((script) => !/json/.test(script.getAttribute('type') ?? ''))
    .map((script) => script.getAttribute('src') ?? script.textContent)
    .join('\n');
