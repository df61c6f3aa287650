import { fileEndpoints } from '@/contract/files';
import { bounds, putTheme, readZip, takeTheme, themeOf, writeZip } from '@/server/drafts';
import { bytesOf } from '@/server/http';
import { serve } from '@/server/shop';

export const GET = serve(fileEndpoints.zip, ({ shop, draft, query }) => {
  const { name, files } = takeTheme(shop, draft, query.layer ?? null);
  return new Response(new Uint8Array(writeZip(files)), {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="${name}.zip"`,
      'Cache-Control': 'no-store',
    },
  });
});

export const PUT = serve(fileEndpoints.replaceAll, async ({ request, shop, draft, by }) => {
  const { files } = themeOf(await readZip(await bytesOf(request, bounds.zip)));
  return putTheme(shop, draft, files, by);
});
