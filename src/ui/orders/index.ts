/** Orders that customers made: the list, and one of them as a page to print. */
export { OrdersScreen } from './OrdersScreen';
