'use client';
import { Button } from 'antd';
import type { AlternatesAnswer, AssignmentProblemItem } from '@/contract/alternates';
import './alternates.css';
import { useEdits } from './useEdits';

interface Props {
  draft: string;
  wrong: AlternatesAnswer['wrong'];
  problems: AssignmentProblemItem[];
  onOpenRule?: (problem: AssignmentProblemItem, id: string) => void;
  onRetire?: (problem: AssignmentProblemItem, name: string) => void;
}

/** What is wrong with the assignments, each with what fixes it in one step. */
export function AssignmentProblems({ draft, wrong, problems, onOpenRule, onRetire }: Props) {
  const edits = useEdits(draft);
  const fix = (problem: AssignmentProblemItem, one: AssignmentProblemItem['fixes'][number]) => {
    if ('edit' in one) edits.edit(one.edit, `${one.title}: done.`);
    else if ('makeFile' in one) edits.mutate({ does: 'makeFile', body: one.makeFile, says: 'The file is made.' });
    else if ('retire' in one) onRetire?.(problem, one.retire.name);
    else onOpenRule?.(problem, one.openRule);
  };
  if (!wrong.length && !problems.length) return <p className="quiet">Nothing is wrong with the assignments.</p>;
  return (
    <ul className="assignment-problems" aria-label="Problems of the assignments">
      {wrong.map((one) => (
        <li key={`${one.line} ${one.path} ${one.says}`}>
          <p>
            <strong className="is-wrong">●</strong> alternates.json, line {one.line}
            {one.path && (
              <>
                , <code>{one.path}</code>
              </>
            )}
            : {one.says}. {one.path ? 'This entry is left out, the rest serves.' : 'Nothing of it serves.'}
          </p>
          <p>
            <Button size="small" href={`/bench?draft=${draft}&file=alternates.json`}>
              Open the file
            </Button>
          </p>
        </li>
      ))}
      {problems.map((problem) => (
        <li key={`${problem.code} ${problem.line} ${problem.says}`}>
          <p>
            <strong className="is-wrong">●</strong> <small>{problem.target.piece ?? problem.target.kind}</small>{' '}
            {problem.says}.
          </p>
          <p className="problem-fixes">
            {problem.fixes
              .filter((one) => ('openRule' in one ? onOpenRule : 'retire' in one ? onRetire : true))
              .map((one) => (
                <Button key={one.title} size="small" disabled={edits.isPending} onClick={() => fix(problem, one)}>
                  {one.title}
                </Button>
              ))}
          </p>
        </li>
      ))}
    </ul>
  );
}
