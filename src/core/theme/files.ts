/** Files of a theme as the layers serve them together. */
export interface ServedFiles {
  paths(): string[];
  file(path: string): { hash: string; text: string | null } | null;
}
