import { ReleaseScreen } from '@/ui/release';

export const metadata = { title: 'Release · Last' };

export default function ReleasePage() {
  return <ReleaseScreen />;
}
