import { Bench } from '@/ui/bench/Bench';

export const metadata = { title: 'Bench · Last' };

/** The port of the pages that it shows is known when the server runs, not when it is built. */
export const dynamic = 'force-dynamic';

export default function BenchPage() {
  return <Bench previewPort={Number(process.env.LAST_PREVIEW_PORT ?? 4171)} />;
}
