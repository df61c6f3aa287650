import { demoPictures, withyQuay } from '../../../demo/catalogue';
import { springWork } from '../../../demo/spring';
import { inProgram } from '@/server/jobs';
import type { Seed } from './seed';

/** The demo, Withy Quay, with what is under way in its draft. */
export const demo = async (): Promise<Omit<Seed, 'now'> & { work: NonNullable<Seed['work']> }> => ({
  catalogue: withyQuay,
  pictures: await demoPictures(),
  base: inProgram('themes/quay-1.0'),
  addOns: [inProgram('themes/quick-find-1.0')],
  own: inProgram('themes/withy-quay'),
  work: springWork(),
});
