'use client';
import { Button, Skeleton } from 'antd';
import type { AlternatesTarget } from '@/contract/alternates';

interface Props {
  switches: { day: string; count: number; names: string[]; rules: string[] }[] | null;
  item: AlternatesTarget;
  onSee: (day: string) => void;
}

/** What switches by itself in the next thirty days. */
export function Coming({ switches, item, onSee }: Props) {
  if (!switches) return <Skeleton active title={false} />;
  if (!switches.length) return <p className="quiet">Nothing switches by itself in the next 30 days.</p>;
  return (
    <ul className="coming">
      {switches.map(({ day, count, names, rules }) => (
        <li key={day}>
          <p>
            <strong>{day}</strong> {count} get another template{' '}
            <Button size="small" onClick={() => onSee(day)}>
              See that day
            </Button>
          </p>
          <p className="quiet">
            {names.join(', ')}
            {count > names.length && '…'}
          </p>
          {rules.map((id) => {
            const at = item.rules.findIndex((one) => one.id === id);
            return at < 0 ? null : (
              <p key={id} className="quiet">
                Rule {at + 1}: {item.rules[at]?.says} {item.rules[at]?.days}
              </p>
            );
          })}
        </li>
      ))}
    </ul>
  );
}
