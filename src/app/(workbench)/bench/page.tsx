import { Bench } from '@/ui/bench';

export const metadata = { title: 'Bench · Last' };

export default function BenchPage() {
  return <Bench />;
}
