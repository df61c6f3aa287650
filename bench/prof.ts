import { productBy, listingBy } from './engines';
const make = (process.argv[2] === 'listing' ? listingBy : productBy).last as () => string;
for (let i = 0; i < 60000; i++) make();
