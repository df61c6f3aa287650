import { fileEndpoints, onTaken } from '@/contract/files';
import {
  bounds,
  draftJobs,
  dropFile,
  dropFiles,
  editInThread,
  putTheme,
  readZip,
  saveFiles,
  takeTheme,
  themeOf,
  writeText,
  writeZip,
} from '@/server/drafts';
import { byContract, bytesOf, formOf } from '@/server/http';
import { draftNow, inThread, sendFromThread } from '@/server/shop';
import { z } from 'zod';
import { serveAll } from './serve';

export const fileCalls = serveAll(fileEndpoints, {
  list: ({ shop, draft }) => sendFromThread(shop, draftJobs.files, draft),
  saveAll: ({ shop, draft, body: { files, title, together }, by }) => {
    saveFiles(shop, draft, files, title, by, together);
    return inThread(shop, 'preview', draftJobs.files, draftNow(shop, draft));
  },
  open: ({ shop, draft, query }) => sendFromThread(shop, draftJobs.open, draft, query.path, query.layer ?? null),
  save: async ({ shop, draft, body, by }) => {
    const { path, text, expected, together } = body;
    const saved = writeText(shop, draft, path, text, expected, by, together);
    // It is saved, whatever checking it comes to.
    const problems = await inThread(shop, 'preview', draftJobs.problems, draftNow(shop, draft), path);
    return { ...saved, problems };
  },
  revert: ({ shop, draft, body: { path, expected }, by }) => {
    const below = dropFile(shop, draft, path, expected, by);
    return below ? inThread(shop, 'preview', draftJobs.open, draftNow(shop, draft), path) : null;
  },
  rename: async ({ shop, draft, body, by }) => {
    const { paths } = await editInThread(shop, draft, draftJobs.planFileRename, body, by);
    return { paths };
  },
  drop: async ({ request, shop, draft, by }) => {
    const form = await formOf(request);
    const folder = byContract(form.get('folder') ?? '', z.string().max(200));
    const files: { name: string; bytes: Buffer }[] = [];
    for (const one of form.getAll('file'))
      if (one instanceof File) files.push({ name: one.name, bytes: Buffer.from(await one.arrayBuffer()) });
    const taken = byContract(form.get('taken') ?? 'ask', onTaken);
    return dropFiles(shop, draft, files, { folder, taken, by });
  },
  zip: ({ shop, draft, query }) => {
    const { name, files } = takeTheme(shop, draft, query.layer ?? null);
    return new Response(new Uint8Array(writeZip(files)), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename="${name}.zip"`,
        'Cache-Control': 'no-store',
      },
    });
  },
  replaceAll: async ({ request, shop, draft, by }) => {
    const { files } = themeOf(await readZip(await bytesOf(request, bounds.zip)));
    return putTheme(shop, draft, files, by);
  },
});
