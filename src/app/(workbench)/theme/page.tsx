import { ThemeScreen } from '@/ui/theme';

export const metadata = { title: 'Theme · Last' };

export default function ThemePage() {
  return <ThemeScreen />;
}
