import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { springWork } from '../../../demo/spring';
import type { Seed } from './seed';

/** The demo, Withy Quay, with what is under way in its draft. */
export const demo = async (): Promise<Omit<Seed, 'now'> & { work: NonNullable<Seed['work']> }> => ({
  catalogue: withyQuay,
  pictures: await demoPictures(),
  base: 'themes/quay-1.0',
  addOns: ['themes/quick-find-1.0'],
  own: 'themes/withy-quay',
  work: springWork(),
});
