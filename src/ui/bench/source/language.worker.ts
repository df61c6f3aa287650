import { parseTemplate, type Problem } from '@/core/language';

/** Reads a template as it is typed, away from the keyboard's thread; answers with its syntax problems. */
self.onmessage = ({ data }: MessageEvent<{ id: number; file: string; text: string }>) => {
  const problems: Problem[] = parseTemplate(data.file, data.text).problems;
  self.postMessage({ id: data.id, problems });
};
