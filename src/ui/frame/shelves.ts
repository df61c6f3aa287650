import type { Pointed } from '@/contract/frame';
import { markName, own, pointedOf, spotsOf } from './marks';

/** Boxes on the page where shelves with nothing on them stand, while they are arranged. */
export class EmptyShelves {
  #shelves: readonly { mark: string; label: string }[] = [];
  #boxes: HTMLElement[] = [];
  /** Pixels of the page to one that is seen. */
  #unit = 1;

  constructor(private readonly onPick: (at: Pointed) => void) {}

  show(shelves: readonly { mark: string; label: string }[]): void {
    this.#shelves = shelves;
    this.draw();
  }

  scale(scale: number): void {
    const unit = 1 / Math.max(0.1, scale);
    if (unit === this.#unit) return;
    this.#unit = unit;
    this.draw();
  }

  /** Out of the page: a newer one is put in its place. */
  clear(): void {
    for (const box of this.#boxes) box.remove();
    this.#boxes = [];
  }

  draw(): void {
    this.clear();
    if (!this.#shelves.length) return;
    const spots = spotsOf(new Set(this.#shelves.map(({ mark }) => mark)));
    for (const { mark, label } of this.#shelves) {
      const node = spots.get(mark)?.node;
      if (node?.nodeType !== Node.COMMENT_NODE) continue;
      const box = this.#box(mark, label);
      (node as Comment).after(box);
      this.#boxes.push(box);
    }
  }

  #box(mark: string, label: string): HTMLElement {
    const box = document.createElement('div');
    const u = this.#unit;
    box.setAttribute(own, '');
    box.setAttribute(markName, mark);
    box.textContent = `${label}: put a piece here`;
    // Nothing of the theme's own sheets applies to it.
    box.style.cssText = `all:initial;display:block;box-sizing:border-box;width:100%;margin:${8 * u}px 0;padding:${10 * u}px ${14 * u}px;border:${u}px dashed #84461c;border-radius:${6 * u}px;background:#fffdf8;color:#84461c;font:600 ${13 * u}px/1.4 system-ui,sans-serif;text-align:center;cursor:pointer`;
    box.addEventListener('click', (event) => {
      event.preventDefault();
      event.stopPropagation();
      const { x, y, width, height } = box.getBoundingClientRect();
      this.onPick(pointedOf({ text: mark, boxes: [{ x, y, width, height }] }));
    });
    return box;
  }
}
