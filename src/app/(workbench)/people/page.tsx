import { PeopleScreen } from '@/ui/people';

export const metadata = { title: 'People · Last' };

export default function PeoplePage() {
  return <PeopleScreen />;
}
