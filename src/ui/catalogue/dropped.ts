import { folderAround, mayBePicture } from '@/core/exchange';
import type { NamedFile } from './pictures-store';

/** Files and folders that were dropped, with all that is in the folders; of those only what may be a picture. */
export async function droppedFiles(data: DataTransfer): Promise<NamedFile[]> {
  // What was dropped can only be read at once: later the list is empty.
  const entries = [...data.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  const files = await Promise.all(entries.map((entry) => filesIn(entry)));
  return fromFolders(files.flat());
}

/** Files of a folder that was chosen. */
export const chosenFiles = (files: FileList | null): NamedFile[] =>
  fromFolders([...(files ?? [])].map((file) => ({ name: file.webkitRelativePath || file.name, file })));

/** Pictures that were pasted; one without a name of its own gets one from the time, in ISO 8601. */
export function pastedFiles(data: DataTransfer | null, now: string): NamedFile[] {
  const time = now.slice(0, 19).replace(/\D/g, '');
  return [...(data?.files ?? [])].map((file, at) => ({
    name: /^image\.\w+$/.test(file.name)
      ? file.name.replace('image', `pasted-${time}${at ? `-${at + 1}` : ''}`)
      : file.name,
    file,
  }));
}

/** By the paths that files have in their folder; the folder itself is not part of them. */
function fromFolders(files: NamedFile[]): NamedFile[] {
  const [only] = files;
  if (files.length === 1 && only && !only.name.includes('/')) return files;
  const pictures = files.filter(({ name }) => mayBePicture(name) || /\.zip$/i.test(name));
  const around = folderAround(pictures.map(({ name }) => name)).length;
  return pictures.map(({ name, file }) => ({ name: name.slice(around), file }));
}

async function filesIn(entry: FileSystemEntry): Promise<NamedFile[]> {
  const name = entry.fullPath.replace(/^\//, '');
  if (entry.isFile)
    return [
      {
        name,
        file: await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)),
      },
    ];
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  // A browser gives a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (!some.length) break;
    found.push(...some);
  }
  return (await Promise.all(found.map(filesIn))).flat();
}
