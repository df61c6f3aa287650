import { minorDigits } from '@/core/language';

/** An amount of minor units as staff read it. */
export const money = (amount: number, currency: string): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency }).format(amount / 10 ** minorDigits(currency));
