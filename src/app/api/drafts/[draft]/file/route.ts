import { fileEndpoints } from '@/contract/files';
import { draftJobs, dropFile, writeText } from '@/server/drafts';
import { draftNow, inThread, sendFromThread, serve } from '@/server/shop';

export const GET = serve(fileEndpoints.open, ({ shop, draft, query }) =>
  sendFromThread(shop, draftJobs.open, draft, query.path, query.layer ?? null),
);

export const PUT = serve(fileEndpoints.save, async ({ shop, draft, body, by }) => {
  const { path, text, expected, together } = body;
  const saved = writeText(shop, draft, path, text, expected, by, together);
  // It is saved, whatever checking it comes to.
  const problems = await inThread(shop, 'preview', draftJobs.problems, draftNow(shop, draft), path);
  return { ...saved, problems };
});

export const DELETE = serve(fileEndpoints.revert, ({ shop, draft, body: { path, expected }, by }) => {
  const below = dropFile(shop, draft, path, expected, by);
  return below ? inThread(shop, 'preview', draftJobs.open, draftNow(shop, draft), path) : null;
});
