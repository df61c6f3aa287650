'use client';
import { Tabs } from 'antd';
import type { ReactNode } from 'react';
import type { ProblemItem } from '@/contract/shared';
import { ProblemList } from './ProblemList';

interface Props {
  tab: string;
  onTab: (tab: string) => void;
  problems: ProblemItem[];
  elsewhere: ProblemItem[];
  untranslated: string[];
  onProblem: (problem: ProblemItem) => void;
  reach: ReactNode;
  styles: ReactNode;
  uses: ReactNode;
  history: ReactNode;
  comments: ReactNode;
  /** How many comments are not done with. */
  open: number;
}

/** Below the source: what is in reach, what is wrong. */
export function Drawer({
  tab,
  onTab,
  problems,
  elsewhere,
  untranslated,
  onProblem,
  reach,
  styles,
  uses,
  history,
  comments,
  open,
}: Props) {
  const count = problems.length + elsewhere.length;
  return (
    <Tabs
      className="drawer"
      size="small"
      activeKey={tab}
      destroyOnHidden
      onChange={onTab}
      items={[
        { key: 'reach', label: 'In reach', children: reach },
        { key: 'styles', label: 'Styles', children: styles },
        {
          key: 'problems',
          label: <>Problems{count > 0 && <span className="tab-count">{count}</span>}</>,
          children: <ProblemList here={problems} page={elsewhere} untranslated={untranslated} onGo={onProblem} />,
        },
        { key: 'uses', label: 'Uses', children: uses },
        { key: 'history', label: 'History', children: history },
        {
          key: 'comments',
          label: <>Comments{open > 0 && <span className="tab-count is-calm">{open}</span>}</>,
          children: comments,
        },
      ]}
    />
  );
}
