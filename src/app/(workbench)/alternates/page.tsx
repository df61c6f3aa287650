import { AlternatesScreen } from '@/ui/alternates';

export const metadata = { title: 'Alternates · Last' };

export default function AlternatesPage() {
  return <AlternatesScreen />;
}
