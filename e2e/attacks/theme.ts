/** Where the attacks aim: origins of the workbench, the live shop, the theme's own draft and another one. */
export interface Targets {
  workbench: string;
  shop: string;
  own: string;
  other: string;
}

/** What stands between an attack and its aim. With it removed, and nothing else, the attack succeeds. */
export type Defence =
  /** A permission that the frame's sandbox does not give. */
  | { sandbox: string }
  /** Headers of answers from one of the origins. */
  | { headers: string[]; of: keyof Targets }
  /** The gate: requests of others are passed on as if the workbench's own page had sent them. */
  | { gate: true }
  /** The origin: the page is served by the workbench, as it once was. */
  | { origin: true }
  /** Held twice: by the gate, and by what the workbench lets its frames show. Either alone is enough. */
  | { gate: true; headers: string[]; of: keyof Targets }
  /** Someone is at the page: then it may do this. */
  | { attended: true };

export interface Attack {
  name: string;
  /** Runs in a page of the theme with the targets as `t`; what it gives, if anything but '', it got hold of. */
  script: string;
  from: 'preview' | 'tab' | 'live';
  defence: Defence;
}

const publish = (t = 't.workbench') => `${t} + '/api/drafts/spring/publish'`;
const body = `JSON.stringify({ note: 'attack', revision: window.guess.revision, turn: window.guess.turn })`;
/** Sends what publishes, in a way that needs no leave of the other side. */
const send = `fetch(${publish()}, { method: 'POST', mode: 'no-cors', credentials: 'include', headers: { 'Content-Type': 'text/plain' }, body: ${body} }).then(() => '')`;
const form = (more: string) => `
  const form = document.createElement('form');
  form.method = 'post'; form.enctype = 'text/plain'; form.action = ${publish()};
  // A form of plain text that is JSON to who reads it.
  const [name, value] = ${body}.replace('"attack"', '"at=tack"').split('=');
  const field = document.createElement('input'); field.name = name; field.value = value;
  form.append(field); ${more} document.body.append(form); form.submit(); return '';`;
const frameOf = (address: string) => `
  const frame = document.createElement('iframe'); frame.src = ${address}; document.body.append(frame);
  await new Promise((done) => { frame.onload = done; setTimeout(done, 3000); });`;
const say = (message: string) => `parent.postMessage({ last: true, ...${message} }, '*'); return '';`;
const policies = ['content-security-policy', 'x-frame-options'];
const inside = `
  const seen = (w) => { try { return w.document.querySelector('.bar-name') ? 'the workbench' : ''; } catch { return ''; } };`;

/** A hostile theme: everything that its scripts try, from the Bench's frame, from a draft's tab and from the live shop. */
export const attacks: Attack[] = [
  // Going elsewhere with the window around.
  {
    name: 'sends the top window away',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `top.location.href = t.own + '/?gone'; return '';`,
  },
  {
    name: 'replaces the top window',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `top.location.replace(t.own + '/?gone'); return '';`,
  },
  {
    name: 'follows a link with the top window',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `const a = document.createElement('a'); a.href = t.own + '/?gone'; a.target = '_top'; document.body.append(a); a.dispatchEvent(new MouseEvent('click', { bubbles: false })); a.click(); return '';`,
  },
  {
    name: 'sends a form with the top window',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `const f = document.createElement('form'); f.action = t.own + '/listing/search'; f.target = '_top'; document.body.append(f); f.submit(); return '';`,
  },
  {
    name: 'navigates the parent by open',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `window.open(t.own + '/?gone', '_parent'); return '';`,
  },
  {
    name: 'goes through the window’s history',
    from: 'preview',
    defence: { sandbox: 'allow-top-navigation' },
    script: `try { top.history.go(-1); } catch {} history.go(-1); return '';`,
  },
  {
    name: 'opens a window',
    from: 'preview',
    defence: { sandbox: 'allow-popups' },
    script: `return window.open(t.own + '/?popup') ? 'a window' : '';`,
  },
  {
    name: 'opens the workbench in a window',
    from: 'preview',
    defence: { sandbox: 'allow-popups' },
    script: `return window.open(t.workbench + '/bench') ? 'a window' : '';`,
  },
  {
    name: 'follows a link into a new window',
    from: 'preview',
    defence: { sandbox: 'allow-popups' },
    script: `const a = document.createElement('a'); a.href = t.own + '/?popup'; a.target = '_blank'; a.rel = 'opener'; const shadow = document.createElement('div').attachShadow({ mode: 'closed' }); document.body.append(shadow.host); shadow.append(a); a.click(); return '';`,
  },
  // Standing in the way.
  { name: 'shows an alert', from: 'preview', defence: { sandbox: 'allow-modals' }, script: `alert('x'); return '';` },
  {
    name: 'asks a question',
    from: 'preview',
    defence: { sandbox: 'allow-modals' },
    script: `confirm('x'); return '';`,
  },
  {
    name: 'puts a file on the disk',
    from: 'preview',
    defence: { sandbox: 'allow-downloads' },
    script: `const a = document.createElement('a'); a.href = URL.createObjectURL(new Blob(['x'])); a.download = 'x.html'; document.body.append(a); a.click(); return '';`,
  },
  {
    name: 'takes the focus from who types',
    from: 'preview',
    defence: { origin: true },
    script: `const i = document.createElement('input'); document.body.append(i); window.focus(); i.focus(); for (let n = 0; n < 20; n++) { await new Promise((done) => setTimeout(done, 100)); if (!document.hasFocus()) return ''; } return 'the focus';`,
  },
  // Publishing, by every way to send something.
  { name: 'publishes by a request', from: 'preview', defence: { gate: true }, script: `return ${send};` },
  {
    name: 'publishes by a form',
    from: 'preview',
    defence: { gate: true, headers: policies, of: 'workbench' },
    script: form(''),
  },
  {
    name: 'publishes by a beacon',
    from: 'preview',
    defence: { gate: true },
    script: `navigator.sendBeacon(${publish()}, new Blob([${body}], { type: 'text/plain' })); return '';`,
  },
  {
    name: 'publishes by an older request',
    from: 'preview',
    defence: { gate: true },
    script: `const x = new XMLHttpRequest(); x.open('POST', ${publish()}); x.withCredentials = true; x.send(${body}); return '';`,
  },
  {
    name: 'publishes from a worker',
    from: 'preview',
    defence: { gate: true },
    script: `const w = new Worker(URL.createObjectURL(new Blob(['onmessage = ({ data: [url, body] }) => fetch(url, { method: "POST", mode: "no-cors", body }).finally(() => postMessage(1))']))); w.postMessage([${publish()}, ${body}]); await new Promise((done) => { w.onmessage = done; setTimeout(done, 2000); }); return '';`,
  },
  { name: 'publishes from a draft’s tab', from: 'tab', defence: { gate: true }, script: `return ${send};` },
  { name: 'publishes from a draft’s tab by a form', from: 'tab', defence: { gate: true }, script: form('') },
  { name: 'publishes from the live shop', from: 'live', defence: { gate: true }, script: `return ${send};` },
  {
    name: 'publishes from the live shop by a form in a new window',
    from: 'live',
    defence: { gate: true },
    script: form(`form.target = '_blank';`),
  },
  // Reading the workbench.
  {
    name: 'reads drafts by a request',
    from: 'preview',
    defence: { gate: true },
    script: `return (await (await fetch(t.workbench + '/api/drafts')).text()).slice(0, 20);`,
  },
  {
    name: 'reads drafts from the live shop',
    from: 'live',
    defence: { gate: true },
    script: `return (await (await fetch(t.workbench + '/api/drafts')).text()).slice(0, 20);`,
  },
  {
    name: 'shows itself the workbench in a frame',
    from: 'tab',
    defence: { headers: policies, of: 'workbench' },
    script: `${frameOf(`t.workbench + '/bench'`)} return '';`,
  },
  {
    name: 'goes to the workbench within its frame',
    from: 'preview',
    defence: { headers: policies, of: 'workbench' },
    script: `setTimeout(() => (location.href = t.workbench + '/theme'), 50); return '';`,
  },
  {
    name: 'goes to the workbench’s data within its frame',
    from: 'preview',
    defence: { headers: policies, of: 'workbench' },
    script: `setTimeout(() => (location.href = t.workbench + '/api/drafts'), 50); return '';`,
  },
  {
    name: 'lets the page refresh to the workbench',
    from: 'preview',
    defence: { headers: policies, of: 'workbench' },
    script: `const m = document.createElement('meta'); m.httpEquiv = 'refresh'; m.content = '0; url=' + t.workbench + '/theme'; document.head.append(m); return '';`,
  },
  {
    name: 'reaches the workbench through a window that it opens',
    from: 'live',
    defence: { headers: ['cross-origin-opener-policy'], of: 'workbench' },
    script: `const w = window.open(t.workbench + '/bench'); await new Promise((done) => setTimeout(done, 2500)); return w && !w.closed ? 'a window of the workbench' : '';`,
  },
  {
    name: 'sends away a workbench that it opened',
    from: 'live',
    defence: { headers: ['cross-origin-opener-policy'], of: 'workbench' },
    script: `const w = window.open(t.workbench + '/theme'); await new Promise((done) => setTimeout(done, 2500)); if (w) w.location.href = t.shop + '/?taken'; return '';`,
  },
  // What only another origin keeps from it.
  {
    name: 'reads the workbench around it',
    from: 'preview',
    defence: { origin: true },
    script: `${inside} return seen(parent);`,
  },
  {
    name: 'reads the workbench’s token',
    from: 'preview',
    defence: { origin: true },
    script: `return parent.document.querySelector('meta[name=last-token]').content;`,
  },
  {
    name: 'reads what is not saved',
    from: 'preview',
    defence: { origin: true },
    script: `return Object.keys(parent.localStorage).filter((key) => key.startsWith('last:')).join(' ');`,
  },
  {
    name: 'reads the workbench’s storage as its own',
    from: 'preview',
    defence: { origin: true },
    script: `return Object.keys(localStorage).filter((key) => key.startsWith('last:')).join(' ');`,
  },
  {
    name: 'makes itself of the workbench’s domain',
    from: 'preview',
    defence: { origin: true },
    script: `${inside} try { document.domain = parent.location.hostname; } catch {} return seen(parent);`,
  },
  {
    name: 'publishes as the workbench, with its token',
    from: 'preview',
    defence: { origin: true },
    script: `const token = parent.document.querySelector('meta[name=last-token]').content; await fetch('/api/drafts/spring/publish', { method: 'POST', headers: { 'X-Last-Token': token, 'Content-Type': 'application/json' }, body: ${body} }); return '';`,
  },
  {
    name: 'writes over the workbench',
    from: 'preview',
    defence: { origin: true },
    script: `parent.document.body.textContent = 'defaced'; return 'its page';`,
  },
  {
    name: 'hears what windows of the workbench tell each other',
    from: 'preview',
    defence: { origin: true },
    script: `const c = new BroadcastChannel('last:saved'); const heard = new Promise((done) => { c.onmessage = () => done('a message'); setTimeout(() => done(''), 1500); }); window.tellSaved?.(); return heard;`,
  },
  // Another draft.
  {
    name: 'shows itself another draft in a frame',
    from: 'tab',
    defence: { headers: policies, of: 'other' },
    script: `${frameOf(`t.other + '/'`)} await new Promise((done) => setTimeout(done, 500)); const hit = new Promise((done) => { addEventListener('message', ({ data }) => data === 'here' && done('a frame of the other draft')); setTimeout(() => done(''), 1500); }); frame.contentWindow.postMessage('who', '*'); return hit;`,
  },
  // Pressing keys and pointing for who is not there.
  {
    name: 'presses the key for another file',
    from: 'preview',
    defence: { attended: true },
    script: say(`{ kind: 'key', key: 'p' }`),
  },
  {
    name: 'takes the focus for a moment and presses the key for another file',
    from: 'preview',
    defence: { attended: true },
    script: `const i = document.createElement('input'); document.body.append(i); for (let n = 0; n < 20; n++) { window.focus(); i.focus(); parent.postMessage({ last: true, kind: 'key', key: 'p' }, '*'); await new Promise((done) => setTimeout(done, 20)); } await new Promise((done) => setTimeout(done, 300)); parent.postMessage({ last: true, kind: 'key', key: 'p' }, '*'); return '';`,
  },
  {
    name: 'opens another file in the editor',
    from: 'preview',
    defence: { attended: true },
    script: say(
      `{ kind: 'picked', at: { mark: document.querySelector('h1').dataset.lastAt, view: null, box: { x: 0, y: 0, width: 1, height: 1 } } }`,
    ),
  },
  {
    name: 'removes the file by going to another page',
    from: 'preview',
    defence: { attended: true },
    script: `setTimeout(() => (location.href = t.own + '/content/delivery'), 50); return '';`,
  },
];
