import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/**
 * Words that a native reader stumbles on, each with what to write instead. Looks through what people read: code, comments,
 * messages, docs. Migrations that have landed never change, and are left out.
 */
const banned = [
  [/(?<!asked-)\banew\b/, 'again, or what is done: reload, recompute, rebuild'],
  [/\bmend(?:s|ed|ing)?\b/i, 'fix'],
  [/\b(?:take|takes|took|taken|taking) (?:it |them |that |a change )?back\b/i, 'undo'],
  [/\b(?:take|takes|took|taken|taking) (?:it |them |the \w+ |one )?away\b/i, 'remove'],
  [/\bdo(?:es)? again\b/i, 'redo, repeat'],
  [/\blook on\b/i, 'resume, continue'],
  [/\bbegins? anew\b/i, 'start over'],
  [/\bcan be come to\b/i, 'is reachable'],
  [
    /(?<!here )\bis no (?:JSON|[a-z]+ (?:file|number|path|name|address)|number|list|size|text|day|form|theme)\b/,
    'is not a …, is not valid …',
  ],
  [/(?<!,)\b(?:stands?|comes|put|goes|written) behind (?!a (?:front|proxy))/, 'after'],
  [/\bwhose rights\b/i, 'permissions'],
  [/\b(?:const|let) (?:most|longest)[A-Z]\w*/, 'maxThings, timeoutMs: an adverb is not a limit'],
  [/\b(?:told|tells?) of\b/i, 'reported, lists'],
  [/\blook(?:s|ed|ing)? whether\b/i, 'check whether'],
  [/\bthereby\b|\bwherefore\b|\bhereafter\b|\btherein\b/i, 'plain words'],
];

const looked = execFileSync('git', ['ls-files', 'src', 'e2e', 'docs', 'bench', 'scripts', 'README.md'], {
  encoding: 'utf8',
})
  .split('\n')
  .filter((path) => /\.(?:tsx?|mjs|cjs|css|md)$/.test(path))
  .filter((path) => !path.startsWith('src/store/migrations/') && path !== 'scripts/words.mjs');

let found = 0;
for (const path of looked)
  readFileSync(path, 'utf8')
    .split('\n')
    .forEach((line, at) => {
      for (const [word, instead] of banned) {
        const [match] = word.exec(line) ?? [];
        if (!match) continue;
        found++;
        process.stdout.write(`${path}:${at + 1}: “${match}”: write ${instead}\n`);
      }
    });
process.stdout.write(found ? `${found} to put into plain English\n` : `${looked.length} files in plain English\n`);
process.exit(found ? 1 : 0);
