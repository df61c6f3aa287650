import { openDatabase } from '../open';
import { Statements } from '../statements';
import { StoredThemes } from '../themes';

/**
 * For tests only: a process that saves, publishes, copies, updates and imports without end, until it is killed. Everything
 * that belongs together holds the same number, so that a mixture shows.
 */
const [folder = '', seed = '1'] = process.argv.slice(2);
const themes = new StoredThemes(new Statements(openDatabase(folder)));
const madeNow = (title: string, by: string) => ({ title, at: new Date().toISOString(), by });
let state = Number(seed);
/** Numbers from a seed (Park and Miller). */
const random = (below: number): number => (state = (state * 48271) % 2147483647) % below;
const bytes = (number: number) => Buffer.from(`<p>${number}</p>`.repeat(1 + random(20)) + `<i>${number}</i>`);
const draft = () => themes.draft('d') ?? themes.drafts()[0];
let number = random(1_000_000);

const works = [
  function save() {
    const id = draft()?.id ?? 0;
    const files = ['pieces/a.html', 'pieces/b.html', 'pieces/c.html'].map((path) => ({ path, bytes: bytes(number) }));
    themes.save(id, files, madeNow('together', 'x'));
  },
  function publish() {
    themes.transaction(() => themes.publish(draft()?.id ?? 0, '', new Date().toISOString(), 'x'));
  },
  function copy() {
    themes.transaction(() => themes.copy(draft()?.id ?? 0, `c${number}`, madeNow('copy', 'x')));
  },
  function update() {
    const at = draft()?.id ?? 0;
    const base = Array.from({ length: 12 }, (_, file): [string, Buffer] => [`layouts/l${file}.html`, bytes(number)]);
    themes.transaction(() => {
      const id = themes.addLayer('base', 'Base', `${number}`, base);
      themes.save(at, [{ path: 'layouts/own.html', bytes: bytes(number) }], madeNow('update', 'x'), { below: [id] });
    });
  },
  function bringIn() {
    const files = Array.from({ length: 20 }, (_, file) => ({ path: `product/p${file}.html`, bytes: bytes(number) }));
    const own = ['a', 'b', 'c'].map((name) => ({ path: `pieces/${name}.html`, bytes: bytes(number) }));
    themes.save(draft()?.id ?? 0, [...own, ...files], madeNow('theme', 'x'));
  },
];
process.stdout.write('ready\n');
for (;;) {
  number = random(1_000_000_000);
  works[random(works.length)]?.();
}
