'use client';
import { Button, Input } from 'antd';
import { useState } from 'react';
import type { CommentItem } from '@/contract/comments';
import { useMe, When } from '@/ui/shared';
import { placeSays } from './says';

interface Props {
  comment: CommentItem;
  chosen: boolean;
  busy: boolean;
  onGo: () => void;
  /** `then`: once it is said. */
  onAnswer: (text: string, then: () => void) => void;
  onDone: () => void;
  onRemove: () => void;
}

/** One comment with its answers, and what can be done with it. */
export function Comment({ comment, chosen, busy, onGo, onAnswer, onDone, onRemove }: Props) {
  const me = useMe();
  const [answering, setAnswering] = useState(false);
  const [text, setText] = useState('');
  const { number, by, at, done, answers } = comment;
  const mine = me.signedIn ? by === me.called : true;
  return (
    <li
      data-comment={comment.id}
      className={`comment${chosen ? ' is-chosen' : ''}${done ? ' is-done' : ''}`}
      aria-label={`Comment ${number}`}
    >
      <div className="comment-head">
        <span className="comment-number">{number}</span>
        <strong>{by}</strong>
        <When at={at} />
        <button type="button" className="comment-place" onClick={onGo}>
          {placeSays(comment)}
        </button>
      </div>
      <p>{comment.text}</p>
      {answers.map((one) => (
        <p key={one.id} className="comment-answer">
          <strong>{one.by}</strong> <When at={one.at} /> {one.text}
        </p>
      ))}
      {answering && (
        <Input.TextArea
          autoFocus
          aria-label={`Answer to comment ${number}`}
          autoSize={{ minRows: 1, maxRows: 5 }}
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      <div className="comment-acts">
        {answering ? (
          <>
            <Button
              size="small"
              disabled={!text.trim()}
              loading={busy}
              onClick={() =>
                onAnswer(text, () => {
                  setText('');
                  setAnswering(false);
                })
              }
            >
              Answer it
            </Button>
            <Button size="small" type="text" onClick={() => setAnswering(false)}>
              Not now
            </Button>
          </>
        ) : (
          <Button size="small" type="text" onClick={() => setAnswering(true)}>
            Answer…
          </Button>
        )}
        <Button size="small" type="text" disabled={busy} onClick={onDone}>
          {done ? 'Open it again' : 'Done'}
        </Button>
        {mine && !answers.length && (
          <Button size="small" type="text" disabled={busy} onClick={onRemove}>
            Delete
          </Button>
        )}
        {done && <span className="quiet">done with by {done.by}</span>}
      </div>
    </li>
  );
}
