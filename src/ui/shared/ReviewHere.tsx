'use client';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Input, Modal, Select } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { reviewEndpoints, type ReviewItem } from '@/contract/reviews';
import { call, messageOf } from './api';
import { useMay } from './me';
import { PublishContent } from './PublishContent';

/** Whether the draft at hand was handed over, and the way to do that: for who arranges, and for who reviews. */
export function ReviewHere({ draft }: { draft: string }) {
  const router = useRouter();
  const arranges = useMay('arrange');
  const reviews = useMay('source');
  const [asking, setAsking] = useState(false);
  const { data } = useQuery({
    enabled: arranges && draft !== '',
    queryKey: ['review', draft],
    queryFn: () => call(reviewEndpoints.last, { draft }),
  });
  const review = data?.review ?? null;
  if (!arranges || !data) return null;
  if (reviews)
    return review?.answer === null ? (
      <button type="button" className="bar-who" onClick={() => router.push(`/release?draft=${draft}`)}>
        {review.by} asks for a review
      </button>
    ) : null;
  return (
    <>
      <button type="button" className="bar-who" onClick={() => setAsking(true)}>
        {review ? standing(review) : 'Ask for a review…'}
      </button>
      <PublishContent draft={draft} />
      {asking && <AskForReview {...{ draft, review }} reviewers={data.reviewers} onClose={() => setAsking(false)} />}
    </>
  );
}

const standing = ({ answer, answeredBy }: ReviewItem): string =>
  answer === null
    ? 'Being reviewed'
    : answer === 'approved'
      ? `Approved by ${answeredBy}`
      : `Given back by ${answeredBy}`;

function AskForReview({
  draft,
  review,
  reviewers,
  onClose,
}: {
  draft: string;
  review: ReviewItem | null;
  reviewers: readonly string[];
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const [whom, setWhom] = useState('');
  const [note, setNote] = useState('');
  const ask = useMutation({
    mutationFn: () => call(reviewEndpoints.ask, { draft }, { whom, note }),
    onSuccess: (answer) => {
      queries.setQueryData(['review', draft], answer);
      void message.success('Handed over. What you change from now on is part of it too.');
      onClose();
    },
  });
  return (
    <Modal
      open
      title="Ask for a review"
      okText={review?.answer === null ? 'Ask again' : 'Hand it over'}
      okButtonProps={{ loading: ask.isPending }}
      onOk={() => ask.mutate()}
      onCancel={onClose}
    >
      <div className="review-form">
        {review?.answer && (
          <p>
            <strong>{standing(review)}.</strong> {review.answerNote}
          </p>
        )}
        <label>
          Whom
          <Select
            aria-label="Whom"
            value={whom}
            options={[{ value: '', label: 'Whoever reviews' }, ...reviewers.map((one) => ({ value: one, label: one }))]}
            onChange={setWhom}
          />
        </label>
        <label>
          What was done, and what to look at
          <Input.TextArea rows={3} maxLength={2000} value={note} onChange={({ target }) => setNote(target.value)} />
        </label>
        {ask.error && <Alert type="error" showIcon title={messageOf(ask.error)} />}
      </div>
    </Modal>
  );
}

/** What was asked of who reviews, and the two answers. Nothing where nothing is asked. */
export function ReviewAsked({ draft }: { draft: string }) {
  const queries = useQueryClient();
  const [note, setNote] = useState('');
  const { data } = useQuery({
    enabled: draft !== '',
    queryKey: ['review', draft],
    queryFn: () => call(reviewEndpoints.last, { draft }),
  });
  const answer = useMutation({
    mutationFn: (given: ReviewItem['answer']) =>
      call(reviewEndpoints.answer, { draft }, { id: data?.review?.id ?? 0, answer: given ?? 'approved', note }),
    onSuccess: (now) => {
      queries.setQueryData(['review', draft], now);
      setNote('');
    },
    onError: () => void queries.invalidateQueries({ queryKey: ['review', draft] }),
  });
  const review = data?.review;
  if (!review) return null;
  if (review.answer)
    return (
      <p className="review-asked" role="status">
        {standing(review)}, asked by {review.by}.{review.answerNote && ` “${review.answerNote}”`}
        {review.changedSince && ' It was changed since it was handed over.'}
      </p>
    );
  return (
    <section className="review-asked" aria-label="Review">
      <p>
        <strong>{review.by} asks for a review</strong>
        {review.whom && ` of ${review.whom}`}
        {review.note && `: “${review.note}”`}
        {review.changedSince && ' The draft was changed since.'}
      </p>
      <Input.TextArea
        aria-label="What to say to it"
        placeholder="What to say to it"
        autoSize={{ minRows: 1, maxRows: 5 }}
        maxLength={2000}
        value={note}
        onChange={({ target }) => setNote(target.value)}
      />
      {answer.error && <Alert type="error" showIcon title={messageOf(answer.error)} />}
      <span>
        <Button size="small" type="primary" loading={answer.isPending} onClick={() => answer.mutate('approved')}>
          Approve
        </Button>{' '}
        <Button
          size="small"
          disabled={!note.trim()}
          title={note.trim() ? '' : 'Say what is to be done'}
          onClick={() => answer.mutate('given back')}
        >
          Give back
        </Button>
      </span>
    </section>
  );
}
