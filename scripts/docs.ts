import { writeFileSync } from 'node:fs';
import { openApi } from '../src/contract/openapi';
import { generatedDocs } from '../src/server/language/docs';

/** `npm run docs`: writes the pages of docs/ that list what the code has. A test holds them to it. */
for (const [name, text] of Object.entries(generatedDocs())) writeFileSync(`docs/${name}`, text);
writeFileSync('docs/openapi.json', `${JSON.stringify(openApi(), null, 2)}\n`);
