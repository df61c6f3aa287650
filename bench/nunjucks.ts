import nunjucks from 'nunjucks';
import { money } from './engines';
import { listing, menu, one, shop } from './goods';
import { largestNunjucks } from './templates/largest';
import { nunjucksFiles } from './templates/nunjucks';

/**
 * nunjucks, in a file of its own that is brought in last: once it is loaded, V8 runs the string work of all engines several
 * times slower (seen by timing the escaping alone with and without it), and no shop of Last's loads it.
 */
class Kept extends nunjucks.Loader {
  getSource(name: string) {
    return { src: nunjucksFiles[name] as string, path: name, noCache: false };
  }
}
const made = new nunjucks.Environment(new Kept() as unknown as nunjucks.ILoader, { autoescape: true });

export const nunjucksListing = () => made.render('listing', { listing, money });
export const nunjucksProduct = () => made.render('product', { product: one, shop, menu, money });

const bare = new nunjucks.Environment(null, { autoescape: true });
export const precompileLargest = () => nunjucks.precompileString(largestNunjucks, { name: 'page', env: bare });
