import { z } from 'zod';
import { answer, byContract, bytesOf } from '@/server/http';
import { shop } from '@/server/shop';
import { bounds, readZip, themeOf, addVersion, versionItems } from '@/server/drafts';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return answer(() => versionItems(shop()));
}

/** Brings in a version of a base or an add-on, as a ZIP; `kind` says what it is where it does not. No draft stands on it yet. */
export function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const kind = byContract(new URL(request.url).searchParams.get('kind'), z.enum(['base', 'add-on']).nullable());
    return addVersion(shop(), themeOf(await readZip(await bytesOf(request, bounds.zip))), kind);
  });
}
