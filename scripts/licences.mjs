import { readFileSync } from 'node:fs';

/** Fails when a package that ships is under a licence that is not permissive. Reads package-lock.json; names each offender. */
const permissive =
  /^(?:MIT|MIT-0|MIT\/X11|ISC|BSD|BSD-2-Clause|BSD-3-Clause|0BSD|Apache-2\.0|Unlicense|CC0-1\.0|CC-BY-4\.0|BlueOak-1\.0\.0|Python-2\.0|WTFPL|OFL-1\.1|Zlib|MPL-2\.0|LGPL-3\.0-or-later)$/;
/** Weak copyleft, used as it is and not changed: allowed for these only. */
const exceptions = { 'MPL-2.0': /^(?:axe-core|@axe-core\/|lightningcss)/, 'LGPL-3.0-or-later': /^@img\/sharp-/ };

const allowed = (licence, name) => {
  const text = licence.replace(/^\(|\)$/g, '');
  if (text.includes(' OR ')) return text.split(' OR ').some((one) => allowed(one.trim(), name));
  if (text.includes(' AND ')) return text.split(' AND ').every((one) => allowed(one.trim(), name));
  return permissive.test(text) && (!exceptions[text] || exceptions[text].test(name));
};

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const wrong = [];
let count = 0;
for (const [path, entry] of Object.entries(packages)) {
  if (!path) continue;
  const name = path.split('node_modules/').pop();
  count++;
  let licence = entry.license;
  if (!licence) {
    try {
      const own = JSON.parse(readFileSync(`${path}/package.json`, 'utf8'));
      licence =
        typeof own.license === 'string'
          ? own.license
          : (own.license?.type ?? own.licenses?.map((one) => one.type).join(' OR '));
    } catch {
      if (entry.optional) continue;
    }
  }
  if (!licence || !allowed(licence, name)) wrong.push(`${name}: ${licence ?? 'no licence given'}`);
}
if (wrong.length) {
  process.stderr.write(`Licences that are not permissive:\n  ${wrong.join('\n  ')}\n`);
  process.exit(1);
}
process.stdout.write(`${count} packages, all under permissive licences\n`);
