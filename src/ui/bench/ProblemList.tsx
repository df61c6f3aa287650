'use client';
import type { ProblemItem } from '@/contract/shared';

interface Props {
  here: ProblemItem[];
  page: ProblemItem[];
  /** Texts shown in the first language, for want of the page's. */
  untranslated: string[];
  onGo: (problem: ProblemItem) => void;
}

const words = { error: 'Error', warning: 'Warning', note: 'Note' };

/** What is wrong in the open file, then on the rest of the page; each leads to its place. */
export function ProblemList({ here, page, untranslated, onGo }: Props) {
  if (!here.length && !page.length && !untranslated.length) return null;
  const row = (one: ProblemItem, elsewhere: boolean) => (
    <li key={`${one.file} ${one.from} ${one.code} ${one.message}`} data-severity={one.severity}>
      <button type="button" onClick={() => onGo(one)}>
        <span className="problem-sign">{words[one.severity]}</span>
        <span>
          {elsewhere && <code>{one.file} </code>}line {one.line}: {one.message}
        </span>
      </button>
    </li>
  );
  return (
    <section className="problems" aria-label="Problems">
      {(here.length > 0 || page.length > 0) && (
        <>
          <h2>
            Problems <small>{here.length + page.length}</small>
          </h2>
          <ul>
            {here.map((one) => row(one, false))}
            {page.map((one) => row(one, true))}
          </ul>
        </>
      )}
      {untranslated.length > 0 && (
        <details className="untranslated">
          <summary>
            Not in this language yet <small>{untranslated.length}</small>
          </summary>
          <ul>
            {untranslated.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}
