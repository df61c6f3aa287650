import type { Box } from '@/contract/frame';
import { own } from './marks';

/** A comment with where it stands on the page. */
interface Sign {
  id: number;
  label: string;
  boxes: () => Box[];
}

/** Draws over the page: what is pointed at, with a label, and every place where the caret's element was rendered. */
export class Outline {
  readonly #layer = document.createElement('div');
  #pointed: (() => Box[]) | null = null;
  #label = '';
  #caret: (() => Box[])[] = [];
  #comments: Sign[] = [];
  /** The sign of a comment was pressed. */
  onPressed: (id: number) => void = () => {};
  #asked = false;
  /** Pixels of the page to one that is seen. */
  #unit = 1;

  constructor() {
    this.#layer.setAttribute(own, '');
    this.#layer.setAttribute('aria-hidden', 'true');
    this.#layer.style.cssText =
      'position:fixed!important;inset:0!important;pointer-events:none!important;z-index:2147483647!important;display:block!important;margin:0!important;overflow:hidden!important';
    const again = () => this.draw();
    window.addEventListener('scroll', again, { passive: true, capture: true });
    window.addEventListener('resize', again);
  }

  point(boxes: (() => Box[]) | null, label = ''): void {
    this.#pointed = boxes;
    this.#label = label;
    this.draw();
  }

  label(text: string): void {
    this.#label = text;
    this.draw();
  }

  scale(scale: number): void {
    this.#unit = 1 / Math.max(0.1, scale);
    this.draw();
  }

  caret(boxes: (() => Box[])[]): void {
    this.#caret = boxes;
    this.draw();
  }

  comments(signs: Sign[]): void {
    this.#comments = signs;
    this.draw();
  }

  /** At the next frame; several calls draw once. */
  draw(): void {
    if (this.#asked) return;
    this.#asked = true;
    requestAnimationFrame(() => {
      this.#asked = false;
      this.#drawNow();
    });
  }

  #drawNow(): void {
    const parts: HTMLElement[] = [];
    for (const boxes of this.#caret.slice(0, 200)) {
      for (const box of boxes()) parts.push(this.#box(box, `${this.#unit}px dashed #84461c`, 'rgba(132,70,28,.07)'));
    }
    const pointed = this.#pointed?.() ?? [];
    for (const box of pointed) parts.push(this.#box(box, `${2 * this.#unit}px solid #84461c`, 'rgba(132,70,28,.10)'));
    const first = pointed[0];
    if (first && this.#label) parts.push(this.#tag(first));
    parts.push(...this.#signs());
    this.#layer.replaceChildren(...parts);
    if (!this.#layer.isConnected) document.documentElement.append(this.#layer);
  }

  #box({ x, y, width, height }: Box, border: string, background: string): HTMLElement {
    const box = document.createElement('div');
    box.style.cssText = `position:absolute;left:${x - 1}px;top:${y - 1}px;width:${width + 2}px;height:${height + 2}px;border:${border};background:${background};border-radius:3px;box-sizing:border-box`;
    return box;
  }

  /** The signs of comments, at the top right of what they stand at; those of one place side by side. */
  #signs(): HTMLElement[] {
    const u = this.#unit;
    const taken = new Map<string, number>();
    return this.#comments.flatMap(({ id, label, boxes }) => {
      const [box] = boxes();
      if (!box) return [];
      const corner = `${Math.round(box.x + box.width)} ${Math.round(box.y)}`;
      const turn = taken.get(corner) ?? 0;
      taken.set(corner, turn + 1);
      const sign = document.createElement('button');
      sign.type = 'button';
      sign.tabIndex = -1;
      sign.dataset.lastSign = '';
      sign.textContent = label;
      const left = Math.max(2 * u, Math.min(box.x + box.width, window.innerWidth - 4 * u) - 24 * u * (turn + 1));
      const top = Math.max(2 * u, box.y - 10 * u);
      // Nothing of the theme's own sheets applies to it.
      sign.style.cssText = `all:initial;position:absolute;left:${left}px;top:${top}px;box-sizing:border-box;min-width:${22 * u}px;height:${22 * u}px;padding:0 ${5 * u}px;border:${2 * u}px solid #fffdf8;border-radius:${5 * u}px;background:#84461c;color:#fff;font:700 ${12 * u}px/${18 * u}px system-ui,sans-serif;text-align:center;cursor:pointer;pointer-events:auto`;
      sign.addEventListener('click', () => this.onPressed(id));
      return [sign];
    });
  }

  #tag({ x, y, height }: Box): HTMLElement {
    const tag = document.createElement('div');
    tag.textContent = this.#label;
    const u = this.#unit;
    const above = y > 30 * u;
    const left = Math.max(4, Math.min(x - 1, window.innerWidth - 340 * u));
    const top = above ? y - 28 * u : y + height + 4 * u;
    tag.style.cssText = `position:absolute;left:${left}px;top:${top}px;max-width:${window.innerWidth - left - 8}px;padding:${3 * u}px ${9 * u}px;border-radius:${5 * u}px;background:#84461c;color:#fff;font:600 ${12 * u}px/${18 * u}px system-ui,sans-serif;white-space:nowrap;overflow:hidden;text-overflow:ellipsis`;
    return tag;
  }
}
