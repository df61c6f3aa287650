import { frameMessage, type FromFrame, type ToFrame } from '@/contract/frame';
import { sayViewWhenFetching } from './fetching';
import { boxesOf, markName, own, pointedOf, spotAt, spotsOf, walkable, written, type Spot } from './marks';
import { Outline } from './outline';
import { Patcher } from './patch';
import { matchRules } from './rules';
import { EmptyShelves } from './shelves';

/** Runs in a page that the Bench shows in its frame: points, outlines, and takes newer pages; the page stays as it is. */
const here = document.currentScript as HTMLScriptElement | null;
const host = window.parent;

if (host !== window) {
  const say = (message: FromFrame) => host.postMessage(frameMessage(message), '*');
  const patcher = new Patcher();
  const outline = new Outline();
  outline.onPressed = (id) => say({ kind: 'commented', id });
  const shelves = new EmptyShelves((at) => say({ kind: 'picked', at }));
  const state = {
    view: here?.dataset.view ?? '',
    shown: here?.dataset.shown ?? '',
    /** Switched on, or only for as long as a key is held. */
    on: false,
    held: false,
    spot: null as Spot | null,
    element: null as Element | null,
    /** Where the pointer is over the page; null: elsewhere. */
    pointer: null as { x: number; y: number } | null,
  };
  sayViewWhenFetching(state.view);
  const pointing = () => state.on || state.held;

  const style = document.createElement('style');
  style.setAttribute(own, '');
  style.textContent = `
    [data-last-notice]{display:inline-block;max-width:100%;padding:4px 10px;border:1px solid #b0122b;border-radius:6px;background:#fffdf8;color:#b0122b;font:13px/1.4 sans-serif}
    [data-last-notice]::before{content:"! ";font-weight:700}
    html[data-last-pointing] *{cursor:crosshair!important}
    .last-told{position:fixed;left:16px;right:16px;bottom:16px;z-index:2147483646;padding:12px 16px;border-radius:8px;background:#29231e;color:#fffdf8;font:15px/1.45 sans-serif}`;
  (document.head ?? document.documentElement).append(style);

  const show = (spot: Spot | null, element: Element | null) => {
    if (spot?.text === state.spot?.text) return;
    state.spot = spot;
    state.element = element;
    const boxes =
      spot &&
      (element
        ? () => boxesOf(element)
        : () =>
            spotsOf(new Set([spot.text]))
              .get(spot.text)
              ?.boxes() ?? []);
    outline.point(boxes);
    say({ kind: 'pointed', at: spot && pointedOf(spot), held: state.held });
  };
  let frame = 0;
  /** Points at what is under the pointer, once a frame. */
  const pointThere = () => {
    cancelAnimationFrame(frame);
    if (!state.pointer || !pointing()) return;
    const { x, y } = state.pointer;
    frame = requestAnimationFrame(() => {
      const target = document.elementFromPoint(x, y);
      const spot = spotAt(target, x, y);
      const element = spot && target?.closest(`[${markName}="${spot.text}"]`);
      show(spot, element ?? null);
    });
  };
  const switched = () => {
    document.documentElement.toggleAttribute('data-last-pointing', pointing());
    if (pointing()) pointThere();
    else {
      cancelAnimationFrame(frame);
      show(null, null);
    }
    say({ kind: 'pointing', on: state.on });
  };
  const pick = (spot: Spot | null) => {
    if (spot) say({ kind: 'picked', at: pointedOf(spot) });
  };

  // Pointing: nothing of it reaches the page.
  window.addEventListener(
    'pointermove',
    (event) => {
      state.pointer = { x: event.clientX, y: event.clientY };
      if (event.altKey !== state.held) {
        state.held = event.altKey;
        switched();
      }
      if (!pointing()) return;
      event.stopImmediatePropagation();
      pointThere();
    },
    true,
  );
  document.documentElement.addEventListener('pointerleave', () => {
    state.pointer = null;
    cancelAnimationFrame(frame);
    if (pointing()) show(null, null);
  });
  for (const name of [
    'pointerdown',
    'mousedown',
    'pointerup',
    'mouseup',
    'click',
    'dblclick',
    'auxclick',
    'contextmenu',
  ]) {
    window.addEventListener(
      name,
      (event) => {
        const { clientX, clientY } = event as MouseEvent;
        if (!pointing() && !(event as MouseEvent).altKey) return;
        event.preventDefault();
        event.stopImmediatePropagation();
        if (name === 'click') pick(spotAt(document.elementFromPoint(clientX, clientY), clientX, clientY) ?? state.spot);
      },
      true,
    );
  }

  /** Points where the page before this one was pointed at, if it is there and the pointer is not elsewhere. */
  const goOnAt = (mark: string) => {
    const found = state.pointer ? undefined : spotsOf(new Set([mark])).get(mark);
    if (found)
      show({ text: mark, boxes: found.boxes() }, found.node instanceof Element ? found.node : found.node.parentElement);
    else if (!state.spot) say({ kind: 'pointed', at: null, held: state.held });
  };

  /** What is pointed at by keys may have another mark on the page that came. */
  const stayAt = () => {
    const { element, spot } = state;
    if (!spot || state.pointer) return;
    const text = element?.isConnected ? element.getAttribute(markName) : null;
    show(element && text ? { text, boxes: boxesOf(element) } : null, element);
  };

  const walk = (key: string): boolean => {
    const all = walkable();
    const at = state.element ? all.indexOf(state.element) : -1;
    const current = all[at];
    let next: Element | undefined;
    if (!current) next = all.find((one) => one.closest('main') && one.tagName !== 'MAIN') ?? all[0];
    else if (key === 'ArrowDown') next = all.slice(at + 1).find((one) => !current.contains(one)) ?? all[at + 1];
    else if (key === 'ArrowUp')
      next =
        all
          .slice(0, at)
          .reverse()
          .find((one) => !one.contains(current)) ?? all[at - 1];
    else if (key === 'ArrowRight') next = all.slice(at + 1).find((one) => current.contains(one));
    else if (key === 'ArrowLeft')
      next = all
        .slice(0, at)
        .reverse()
        .find((one) => one.contains(current));
    else return false;
    // Keys lead now, until the pointer moves.
    state.pointer = null;
    if (!next) return true;
    const element = next;
    element.scrollIntoView({ block: 'nearest', behavior: 'instant' });
    show({ text: element.getAttribute(markName) as string, boxes: boxesOf(element) }, element);
    return true;
  };

  /** Keys that are the workbench's wherever they are pressed. What changes something is pressed in the workbench itself. */
  const workbenchs = ['k', 'p', '.', 'i', 'F6'] as const;
  const isWorkbenchs = (key: string): key is (typeof workbenchs)[number] =>
    (workbenchs as readonly string[]).includes(key);
  window.addEventListener(
    'keydown',
    (event) => {
      const { key, altKey } = event;
      const ctrl = event.ctrlKey || event.metaKey;
      if (key === 'Alt') {
        state.held = true;
        switched();
      } else if (state.on && key === 'Enter') {
        event.preventDefault();
        event.stopImmediatePropagation();
        pick(state.spot);
      } else if (state.on && key === 'Escape') {
        event.preventDefault();
        event.stopImmediatePropagation();
        state.on = false;
        switched();
      } else if (state.on && walk(key)) {
        event.preventDefault();
        event.stopImmediatePropagation();
      } else if (isWorkbenchs(key) && (key === 'F6' || (ctrl && !altKey && !event.shiftKey)) && !inField(event, key)) {
        event.preventDefault();
        event.stopImmediatePropagation();
        say({ kind: 'key', key });
      } else if (ctrl && key.toLowerCase() === 's') {
        event.preventDefault();
        tell('Saving is the source’s: F6 goes there.');
      }
    },
    true,
  );
  window.addEventListener('keyup', ({ key }) => {
    if (key !== 'Alt' || !state.held) return;
    state.held = false;
    switched();
  });
  window.addEventListener('blur', () => {
    if (!state.held) return;
    state.held = false;
    switched();
  });

  // Where the page stands, and where it goes.
  window.addEventListener('scroll', () => say({ kind: 'scroll', x: window.scrollX, y: window.scrollY }), {
    passive: true,
  });
  const address = () => location.pathname + location.search + location.hash;
  for (const name of ['pushState', 'replaceState'] as const) {
    const before = history[name].bind(history);
    history[name] = (...given: Parameters<typeof history.pushState>) => {
      before(...given);
      say({ kind: 'moved', address: address() });
    };
  }
  window.addEventListener('popstate', () => say({ kind: 'moved', address: address() }));
  const draft = /^\/draft\/[^/]+\//.exec(location.pathname)?.[0] ?? '/';
  document.addEventListener('click', (event) => {
    const link = (event.target as Element | null)?.closest?.('a[href]') as HTMLAnchorElement | null;
    if (!link || event.defaultPrevented) return;
    const inside = link.origin === location.origin && (link.pathname + '/').startsWith(draft);
    // Where the browser does not say that a page is in a frame, its address does.
    if (inside && new URLSearchParams(location.search).has('framed')) {
      const to = new URL(link.href);
      to.searchParams.set('framed', '');
      link.href = to.href;
    }
    if (inside && !link.target) return;
    if (!/^https?:$/.test(link.protocol)) return;
    event.preventDefault();
    if (inside) location.assign(link.href);
    else tell(`This link leaves the draft, and is not followed here: ${link.href}`);
  });
  const tell = (text: string) => {
    document.querySelector('.last-told')?.remove();
    const notice = document.createElement('p');
    notice.className = 'last-told';
    notice.setAttribute(own, '');
    notice.setAttribute('role', 'status');
    notice.textContent = text;
    document.body.append(notice);
    setTimeout(() => notice.remove(), 8000);
  };
  window.addEventListener(
    'submit',
    (event) => {
      const { action } = event.target as HTMLFormElement;
      const to = new URL(action, location.href);
      if (to.origin === location.origin && (to.pathname + '/').startsWith(draft)) return;
      event.preventDefault();
      tell(`This form is sent away from the draft, and is not sent here: ${to.href}`);
    },
    true,
  );

  let shownMarks: string[] = [];
  const outlineMarks = (marks: string[], to: string | null) => {
    shownMarks = marks;
    const spots = spotsOf(new Set(to ? [...marks, to] : marks));
    outline.caret(marks.flatMap((mark) => spots.get(mark)?.boxes ?? []));
    const node = to ? spots.get(to)?.node : null;
    const element = node instanceof Element ? node : node?.parentElement;
    element?.scrollIntoView({ block: 'center', behavior: 'instant' });
  };

  window.addEventListener('message', (event: MessageEvent<ToFrame & { last?: boolean }>) => {
    if (event.source !== host || !event.data?.last) return;
    const { data } = event;
    if (data.kind === 'scroll') {
      window.scrollTo({ left: data.x, top: data.y, behavior: 'instant' });
      say({ kind: 'placed' });
    } else if (data.kind === 'show') {
      shelves.clear();
      const scripts = patcher.show(data.html);
      shelves.draw();
      state.shown = data.shown;
      outlineMarks(shownMarks, null);
      pointThere();
      stayAt();
      // After the frame in which it is painted: a task after the next one.
      requestAnimationFrame(() => {
        const channel = new MessageChannel();
        channel.port1.onmessage = () => say({ kind: 'shown', shown: state.shown, scripts });
        channel.port2.postMessage(null);
      });
    } else if (data.kind === 'point') {
      state.on = data.on;
      switched();
      if (data.on && data.at !== undefined) goOnAt(data.at);
      if (data.on) window.focus();
    } else if (data.kind === 'scale') {
      outline.scale(data.scale);
      shelves.scale(data.scale);
    } else if (data.kind === 'shelves') {
      shelves.show(data.shelves);
    } else if (data.kind === 'comments') {
      const spots = spotsOf(new Set(data.comments.map(({ mark }) => mark)));
      outline.comments(
        data.comments.flatMap(({ id, mark, label }) => {
          const boxes = spots.get(mark)?.boxes;
          return boxes ? [{ id, label, boxes }] : [];
        }),
      );
    } else if (data.kind === 'label') {
      if (state.spot && pointedOf(state.spot).mark === data.mark) outline.label(data.text);
    } else if (data.kind === 'outline') {
      outlineMarks(
        data.marks.map((mark) => written(mark, data.view)),
        data.to && written(data.to, data.view),
      );
    } else if (data.kind === 'match') {
      const spot = spotsOf(new Set([written(data.mark, data.view)]))
        .values()
        .next().value;
      const element = spot?.node instanceof Element ? spot.node : (spot?.node.parentElement ?? null);
      say({ kind: 'matched', id: data.id, ...matchRules(element, data.rules) });
    } else say({ kind: 'alive' });
  });

  const ready = () => say({ kind: 'ready', address: address(), view: state.view, shown: state.shown });
  if (document.readyState === 'complete') ready();
  else window.addEventListener('load', ready);
}

/** Whether a key belongs to the field that one types in. */
function inField({ target }: KeyboardEvent, key: string): boolean {
  return key === 'i' && target instanceof Element && target.matches('input, textarea, select, [contenteditable]');
}
