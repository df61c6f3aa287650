import { OrdersScreen } from '@/ui/orders';

export const metadata = { title: 'Orders · Last' };

export default function OrdersPage() {
  return <OrdersScreen />;
}
