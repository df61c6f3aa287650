import { alternateJobs } from './alternate-jobs';
import { benchJobs } from './bench-jobs';
import { draftJobs } from './draft-jobs';
import type { ShopJob } from './shop-jobs';
import { storefrontJobs } from './storefront-jobs';

/** Everything that a thread can do for a shop, by its name. */
export const jobs: ReadonlyMap<string, ShopJob> = new Map(
  [storefrontJobs, draftJobs, benchJobs, alternateJobs]
    .flatMap((table): ShopJob[] => Object.values(table))
    .map((job) => [job.name, job]),
);
