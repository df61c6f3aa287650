import type { SurveyLine, SurveyRequest } from '@/contract/api';
import { ApiError } from '../shared/api';

/** Asks for a survey and hears what is found, line by line, until it is done or `signal` says stop. */
export async function readSurvey(
  draft: string,
  ask: SurveyRequest,
  onLine: (line: SurveyLine) => void,
  signal: AbortSignal,
): Promise<void> {
  const response = await fetch(`/api/drafts/${draft}/survey`, {
    method: 'POST',
    body: JSON.stringify(ask),
    headers: { 'Content-Type': 'application/json' },
    signal,
  });
  if (!response.ok || !response.body) {
    const refusal = (await response.json().catch(() => null)) as { message?: string } | null;
    throw new ApiError(response.status, { code: 'survey', message: refusal?.message ?? 'The survey was refused.' });
  }
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    rest += value;
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      const read = JSON.parse(line) as SurveyLine | { failed: string };
      if ('failed' in read) throw new ApiError(500, { code: 'survey', message: read.failed });
      onLine(read);
    }
  }
}
