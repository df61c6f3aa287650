/** Whether files of this path are put together by their contents, name by name, not served by the topmost layer alone. */
export const layered = (path: string): boolean =>
  path === 'about.json' || path === 'look.json' || path === 'shelves.json' || path.startsWith('words/');
