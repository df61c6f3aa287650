'use client';
import { Alert, Button, Input } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { AddComment } from '@/contract/comments';
import { messageOf, useStored } from '@/ui/shared';
import { useNow, useWorkspace } from '@/ui/workspace';
import { Comment } from './Comment';
import { useCommenting, useComments } from './useComments';
import './comments.css';

/** What is commented on next. */
export interface CommentTarget {
  /** What it is, in words. */
  says: string;
  given: Omit<AddComment, 'text'>;
}

/** The comments of the draft, and the field in which to say more, of the place at hand. */
export function Comments({ draft, target }: { draft: string; target: CommentTarget | null }) {
  const workspace = useWorkspace();
  const { comments, error } = useComments(draft);
  const { chosen } = useNow(workspace.comments, (now) => now);
  const commenting = useCommenting(draft);
  const [text, setText] = useStored(`comment:${draft}`, '');
  const [all, setAll] = useState(false);
  const open = comments.filter(({ done }) => !done);
  const done = comments.filter(({ done: is }) => is);
  const shown = all ? comments : comments.filter((one) => !one.done || one.id === chosen);
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    if (chosen !== null)
      list.current?.querySelector(`[data-comment="${chosen}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  const say = () => {
    if (!target || !text.trim() || commenting.isPending) return;
    commenting.mutate({ kind: 'add', given: { ...target.given, text } }, { onSuccess: () => setText('') });
  };
  return (
    <section className="comments" aria-label="Comments">
      {target && (
        <form
          className="comment-field"
          onSubmit={(event) => {
            event.preventDefault();
            say();
          }}
        >
          <Input.TextArea
            id="comment-text"
            aria-label={`Comment on ${target.says}`}
            placeholder={`Comment on ${target.says}`}
            autoSize={{ minRows: 1, maxRows: 6 }}
            maxLength={4000}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || event.shiftKey || event.nativeEvent.isComposing) return;
              event.preventDefault();
              say();
            }}
          />
          <Button
            htmlType="submit"
            size="small"
            disabled={!text.trim()}
            loading={commenting.isPending}
            title="Say it (Enter; Shift Enter begins a new line)"
          >
            Say it
          </Button>
        </form>
      )}
      {(error ?? commenting.error) !== null && (
        <Alert type="error" showIcon title={messageOf(error ?? commenting.error)} />
      )}
      {!comments.length && !error && (
        <p className="quiet">Nobody has said anything yet. What you say stays with its place while that moves.</p>
      )}
      <ul ref={list} aria-label="Comments of this draft">
        {shown.map((one) => (
          <Comment
            key={one.id}
            comment={one}
            chosen={one.id === chosen}
            busy={commenting.isPending}
            onGo={() => workspace.comments.goTo(one)}
            onAnswer={(said, then) =>
              commenting.mutate({ kind: 'answer', comment: one.id, text: said }, { onSuccess: then })
            }
            onDone={() => commenting.mutate({ kind: 'done', comment: one.id, done: !one.done })}
            onRemove={() => commenting.mutate({ kind: 'remove', comment: one.id })}
          />
        ))}
      </ul>
      {done.length > 0 && (
        <Button type="link" size="small" onClick={() => setAll(!all)}>
          {all ? 'Leave out what is done with' : `${done.length} done with`}
        </Button>
      )}
      {open.length === 0 && comments.length > 0 && !all && <p className="quiet">All that was said is done with.</p>}
    </section>
  );
}
