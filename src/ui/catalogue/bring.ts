import { pictureEndpoints, type PictureOutcome } from '@/contract/pictures';
import type { callForLines as callServerForLines } from '@/ui/shared';
import type { NamedFile } from './pictures-store';

interface Needs {
  callForLines: typeof callServerForLines;
  messageOf(error: unknown): string;
}

/** Pictures of one name in a folder, each with a number, that are tried before it is given up. */
const maxNames = 50;

/** Brings pictures into a folder of the shop; gives the paths that they stand under, and why others could not be taken. */
export async function bringPictures(
  needs: Needs,
  folder: string,
  files: readonly NamedFile[],
): Promise<{ paths: string[]; left: string[] }> {
  const paths: string[] = [];
  const left: string[] = [];
  // All that is dropped at once is one change.
  const into: { change?: number } = {};
  for (const { name, file } of files)
    try {
      const dot = name.lastIndexOf('.');
      const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
      // Another picture of the same name stays: this one gets a number.
      for (let number = 1; ; number++) {
        const path = `${folder}/${stem}${number > 1 ? `-${number}` : ''}${ending}`;
        const outcome = await take(needs, path, file, into);
        if (outcome?.what === 'there' && number < maxNames) continue;
        if (!outcome || outcome.what === 'left') left.push(`${name}: ${outcome?.why ?? 'it was not taken'}.`);
        else paths.push(outcome.path);
        break;
      }
    } catch (error) {
      left.push(`${name}: ${needs.messageOf(error)}`);
    }
  return { paths, left };
}

async function take(
  needs: Needs,
  path: string,
  file: Blob,
  into: { change?: number },
): Promise<PictureOutcome | undefined> {
  let found: PictureOutcome | undefined;
  await needs.callForLines(
    pictureEndpoints.take,
    { path, replace: 'no', ...into },
    file as unknown as undefined,
    ({ outcome, change }) => {
      if (outcome) found = outcome;
      if (typeof change === 'number') into.change = change;
    },
    new AbortController().signal,
  );
  return found;
}
