import { ReleaseScreen } from '@/ui/release/ReleaseScreen';

export const metadata = { title: 'Release · Last' };

export default function ReleasePage() {
  return <ReleaseScreen />;
}
