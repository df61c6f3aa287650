import { z } from 'zod';
import { onTaken } from '@/contract/files';
import { authorOf, answer, byContract, formOf } from '@/server/http';
import { dropFiles, draftOf } from '@/server/drafts';
import { shop } from '@/server/shop';

/** Files dropped in: each goes where its kind belongs, or below `folder`. */
export function POST(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const form = await formOf(request);
    const folder = byContract(form.get('folder') ?? '', z.string().max(200));
    const files: { name: string; bytes: Buffer }[] = [];
    for (const one of form.getAll('file'))
      if (one instanceof File) files.push({ name: one.name, bytes: Buffer.from(await one.arrayBuffer()) });
    const taken = byContract(form.get('taken') ?? 'ask', onTaken);
    return dropFiles(shop(), draftOf(shop(), (await params).draft), files, { folder, taken, by: authorOf(request) });
  });
}
