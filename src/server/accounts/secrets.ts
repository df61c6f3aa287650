import { createHash, randomBytes } from 'node:crypto';

/** A secret that nobody guesses: 256 bits. */
export const newSecret = (): string => randomBytes(32).toString('base64url');

/** What is kept of a secret: who reads the data folder cannot use it. It is random already, and needs no salt. */
export const hashOfSecret = (secret: string): string => createHash('sha256').update(secret).digest('base64url');
