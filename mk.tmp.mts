import { readFileSync } from 'node:fs';
const at = 'http://127.0.0.1:4300';
const token = readFileSync('/tmp/dS/token', 'utf8').trim();
const post = async (changes: unknown[]) => console.log((await fetch(at + '/api/goods/records', { method: 'POST', headers: { 'content-type': 'application/json', origin: at, 'x-last-token': token }, body: JSON.stringify({ changes, title: 'x' }) })).status);
await post([{ kind: 'field', slug: 'content audience', before: null, after: { subject: 'content', key: 'audience', name: 'Audience', type: 'text', help: 'Whom the page is written for', choices: ['Beginners', 'Riggers', 'Owners'], several: true } }]);
await post([{ kind: 'field', slug: 'content level', before: null, after: { subject: 'content', key: 'level', name: 'Level', type: 'text', choices: ['Easy', 'Hard'] } }]);
await post([{ kind: 'content', slug: 'delivery', before: { fields: {} }, after: { fields: { audience: 'Riggers\nOwners', level: 'Easy' } } }]);
