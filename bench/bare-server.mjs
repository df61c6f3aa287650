import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';

/** The limit that served pages are measured against: a server that sends the same bytes (`argv[2]`), and does nothing else. */
const bytes = readFileSync(process.argv[2]);
const headers = { 'Content-Type': 'text/html; charset=utf-8', 'Content-Length': bytes.length };
createServer((_, response) => response.writeHead(200, headers).end(bytes)).listen(0, '127.0.0.1', function () {
  process.stdout.write(`${this.address().port}\n`);
});
