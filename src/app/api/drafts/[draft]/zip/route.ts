import { bytesOf, answer, refusing, authorOf } from '@/server/http';
import { draftOf, putTheme, takeTheme, bounds, readZip, themeOf, writeZip } from '@/server/drafts';
import { shop } from '@/server/shop';

interface Context {
  params: Promise<{ draft: string }>;
}

/** A layer of the draft as a ZIP: the shop's own, or the one that `layer` names. */
export function GET(request: Request, { params }: Context): Promise<Response> {
  return refusing(async () => {
    const layer = new URL(request.url).searchParams.get('layer');
    const { name, files } = takeTheme(shop(), draftOf(shop(), (await params).draft), layer);
    return new Response(new Uint8Array(writeZip(files)), {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': `attachment; filename="${name}.zip"`,
        'Cache-Control': 'no-store',
      },
    });
  });
}

/** Puts a ZIP in the place of the shop's own files, as one change. */
export function PUT(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { files } = themeOf(await readZip(await bytesOf(request, bounds.zip)));
    return putTheme(shop(), draftOf(shop(), (await params).draft), files, authorOf(request));
  });
}
