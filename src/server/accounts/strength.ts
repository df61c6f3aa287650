import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';

/** Guesses that a password must withstand, as a power of ten: more than slow hashes let anyone try. */
const least = 8;

let checker: ZxcvbnFactory | null = null;

/** Why a password is guessed too easily: a sentence; null: it is not. `about`: what everyone knows of its owner. */
export function tooEasy(password: string, about: readonly string[]): string | null {
  checker ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const { guessesLog10 } = checker.check(
    password,
    about.flatMap((one) => [one, ...one.split(/[^\p{L}\p{N}]+/u)]).filter(Boolean),
  );
  return guessesLog10 < least
    ? 'This password is among those that are tried first: take a few words that do not belong together.'
    : null;
}
