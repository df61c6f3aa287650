import { AlternatesScreen } from '@/ui/alternates/AlternatesScreen';

export const metadata = { title: 'Alternates · Last' };

export default function AlternatesPage() {
  return <AlternatesScreen />;
}
