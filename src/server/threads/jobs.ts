import { alternateJobs } from '@/server/alternates';
import { benchJobs } from '@/server/bench';
import { commentJobs } from '@/server/comments';
import { draftJobs } from '@/server/drafts';
import { pictureJobs } from '@/server/pictures';
import { recordJobs } from '@/server/records';
import type { ShopJob } from '@/server/shop';
import { storefrontJobs } from '@/server/storefront';

/** Everything that a thread can do for a shop, by its name. */
export const jobs: ReadonlyMap<string, ShopJob> = new Map(
  [storefrontJobs, draftJobs, benchJobs, commentJobs, alternateJobs, pictureJobs, recordJobs]
    .flatMap((table): ShopJob[] => Object.values(table))
    .map((job) => [job.name, job]),
);
