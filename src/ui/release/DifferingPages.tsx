'use client';
import { Alert, Button, Progress } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { stateBase } from '@/contract/addresses';
import type { DifferingStep } from '@/contract/shared';
import { useAddresses, messageOf } from '@/ui/shared';

interface Props {
  /** Finds them, a step at a time. */
  find: (heard: (step: DifferingStep) => void, signal: AbortSignal) => Promise<void>;
  /** Names of the two states; null: its pages cannot be looked at yet. */
  a: string;
  b: string | null;
}

/** The pages of the shop that come out different, found by making each of them in both states. */
export function DifferingPages({ find, a, b }: Props) {
  const addresses = useAddresses();
  const [step, setStep] = useState<DifferingStep | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const asking = useRef<AbortController | null>(null);
  useEffect(() => () => asking.current?.abort(), []);
  const look = () => {
    asking.current?.abort();
    const mine = (asking.current = new AbortController());
    setFailure(null);
    setStep({ pages: [], looked: 0, of: 0, done: false });
    find(setStep, mine.signal).catch((error: unknown) => !mine.signal.aborted && setFailure(messageOf(error)));
  };
  const stop = () => {
    asking.current?.abort();
    setStep((now) => now && { ...now, done: true });
  };
  return (
    <>
      <h3>Pages</h3>
      {!step && (
        <p>
          <Button onClick={look}>See which pages come out different</Button>{' '}
          <span className="quiet">Pages that read nothing that differs are not rendered again.</span>
        </p>
      )}
      {failure && <Alert type="error" showIcon title={failure} />}
      {step && !step.done && !failure && (
        <div className="page-progress">
          <Progress percent={step.of ? Math.round((100 * step.looked) / step.of) : 0} size="small" />
          <Button size="small" onClick={stop}>
            Stop
          </Button>
        </div>
      )}
      {step && (step.done || step.pages.length > 0) && (
        <>
          <p role="status">
            {step.pages.length === 0
              ? `None of ${step.looked} pages comes out different, but for what style sheets and scripts do to them.`
              : `${step.pages.length} of ${step.looked} pages come out different${step.done && step.looked < step.of ? ` (stopped; ${step.of} in all)` : ''}.`}
          </p>
          <ul className="page-list" aria-label="Pages that come out different">
            {step.pages.map(({ path, name, kind, lines }) => (
              <li key={path}>
                <span>
                  {name} <small>{kind}</small>
                </span>
                <small>
                  {lines} {lines === 1 ? 'line' : 'lines'}
                </small>
                <a href={stateBase(addresses, a) + path} target="_blank" rel="noreferrer">
                  before
                </a>
                {b !== null && (
                  <a href={stateBase(addresses, b) + path} target="_blank" rel="noreferrer">
                    after
                  </a>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
