import { redirect } from 'next/navigation';
import { token } from '@/server/http';
import { beginning, shop } from '@/server/shop';
import { Providers } from '@/ui/shared';
import { StartScreen } from '@/ui/start';

export const metadata = { title: 'Start · Last' };

/** Whether there is a shop is known when the screen is asked for. */
export const dynamic = 'force-dynamic';

export default function StartPage() {
  if (beginning(shop())) redirect('/bench');
  return (
    <Providers>
      <meta name="last-token" content={token()} />
      <StartScreen />
    </Providers>
  );
}
