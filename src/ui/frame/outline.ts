import type { Box } from '@/contract/frame';
import { own } from './marks';

/** Draws over the page: what is pointed at, with a label, and every place where the caret's element was rendered. */
export class Outline {
  readonly #layer = document.createElement('div');
  #pointed: (() => Box[]) | null = null;
  #label = '';
  #caret: (() => Box[])[] = [];
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
    this.#layer.replaceChildren(...parts);
    if (!this.#layer.isConnected) document.documentElement.append(this.#layer);
  }

  #box({ x, y, width, height }: Box, border: string, background: string): HTMLElement {
    const box = document.createElement('div');
    box.style.cssText = `position:absolute;left:${x - 1}px;top:${y - 1}px;width:${width + 2}px;height:${height + 2}px;border:${border};background:${background};border-radius:3px;box-sizing:border-box`;
    return box;
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
