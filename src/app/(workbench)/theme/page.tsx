import { ThemeScreen } from '@/ui/theme/ThemeScreen';

export const metadata = { title: 'Theme · Last' };

export default function ThemePage() {
  return <ThemeScreen />;
}
