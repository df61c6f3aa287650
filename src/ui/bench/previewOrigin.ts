/**
 * Where the frame's pages come from: the preview's port, by another name of this machine than the workbench's where there is
 * one. Another name is another site to the browser: cookies are apart, and a script without end holds up no one else.
 */
export function previewOrigin(port: number, { protocol, hostname }: { protocol: string; hostname: string }): string {
  const other = hostname === '127.0.0.1' ? 'localhost' : hostname === 'localhost' ? '127.0.0.1' : hostname;
  return `${protocol}//${other}:${port}`;
}
