import { answer } from '@/server/http';
import { draftOf } from '@/server/files';
import { readAsk, reportPage } from '@/server/preview';
import { shop } from '@/server/shop';

export function GET(request: Request, { params }: { params: Promise<{ draft: string }> }): Promise<Response> {
  return answer(async () => {
    const query = new URL(request.url).searchParams;
    const ask = readAsk(query.get('address') ?? '/', query.get('try'));
    return reportPage(shop(), draftOf(shop(), (await params).draft), ask);
  });
}
