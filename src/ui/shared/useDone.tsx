import { historyEndpoints } from '@/contract/history';
import { useQueryClient } from '@tanstack/react-query';
import { App, Button } from 'antd';
import { call, messageOf } from './api';
import { draftChanged } from './draftChanged';

/** How long what was done can be undone from where it is said, in seconds. */
const shownSeconds = 8;

/** Says what was done to a draft, with a button that undoes the change (null: nothing to undo). */
export function useDone(draft: string): (says: string, change: number | null) => void {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const undo = async (change: number) => {
    message.destroy();
    try {
      await call(historyEndpoints.undo, { draft, change });
    } catch (error) {
      void message.error(messageOf(error));
    }
    await draftChanged(queries, draft);
  };
  return (says, change) =>
    void message.open({
      duration: shownSeconds,
      content: (
        <span className="done-message">
          {says}{' '}
          {change !== null && (
            <Button size="small" onClick={() => void undo(change)}>
              Undo
            </Button>
          )}
        </span>
      ),
    });
}
