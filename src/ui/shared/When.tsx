/** A point of time as people say it, the exact one in its tooltip. */
export function When({ at }: { at: string }) {
  const date = new Date(at);
  const today = date.toDateString() === new Date().toDateString();
  const text = today
    ? date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
    : date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
  return (
    <time dateTime={at} title={date.toLocaleString('en-GB')} suppressHydrationWarning>
      {text}
    </time>
  );
}
