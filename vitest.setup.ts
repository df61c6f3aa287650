import fc from 'fast-check';

/**
 * Generated tests try the same cases everywhere, so that a change is judged by itself; `LAST_SEED` tries others. What such a
 * run finds becomes a case of its own.
 */
fc.configureGlobal({ seed: Number(process.env.LAST_SEED ?? 4170) });
