import { fileEndpoints, onTaken } from '@/contract/files';
import { dropFiles } from '@/server/drafts';
import { byContract, formOf } from '@/server/http';
import { serve } from '@/server/shop';
import { z } from 'zod';

export const POST = serve(fileEndpoints.drop, async ({ request, shop, draft, by }) => {
  const form = await formOf(request);
  const folder = byContract(form.get('folder') ?? '', z.string().max(200));
  const files: { name: string; bytes: Buffer }[] = [];
  for (const one of form.getAll('file'))
    if (one instanceof File) files.push({ name: one.name, bytes: Buffer.from(await one.arrayBuffer()) });
  const taken = byContract(form.get('taken') ?? 'ask', onTaken);
  return dropFiles(shop, draft, files, { folder, taken, by });
});
