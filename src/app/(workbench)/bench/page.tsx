import { Bench } from '@/ui/bench/Bench';

export const metadata = { title: 'Bench · Last' };

export default function BenchPage() {
  return <Bench />;
}
