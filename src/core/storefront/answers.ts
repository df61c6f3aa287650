import type { GivenAnswer, Question } from '@/core/language';

/** Longest answers where a question does not say, in characters: a text, and a long text. */
const longest = { text: 200, 'long-text': 2000 };
/** No answer is longer, whatever a question says; in characters. */
const maxAnswer = 10_000;

export type AnswerProblem = 'required' | 'too-long' | 'too-short' | 'not-offered';

export interface Answers {
  /** Those that can be taken, in the questions' order; questions left open are left out. */
  taken: { name: string; label: string; value: string }[];
  /** What was given to each question, with what is wrong of it. */
  given: Record<string, GivenAnswer>;
  /** Whether all of it can be taken. */
  sound: boolean;
}

/**
 * Holds what a customer sent to the questions that the page asked. What answers no question is passed over. `yes` is what
 * a ticked box says on the cart.
 */
export function readAnswers(
  questions: readonly Question[],
  sent: (name: string) => string | null,
  yes: string,
): Answers {
  const answers: Answers = { taken: [], given: {}, sound: true };
  for (const question of questions) {
    const { name, label, type } = question;
    const value = clean(sent(name) ?? '', type === 'long-text');
    const problem = problemOf(question, value);
    answers.given[name] = { value, problem };
    if (problem) answers.sound = false;
    else if (value) answers.taken.push({ name, label, value: type === 'tick' ? yes : value });
  }
  return answers;
}

/** Why an answer cannot be taken; null when it can. Lengths count characters (code points). */
export function problemOf({ type, options, required, least, most }: Question, value: string): AnswerProblem | null {
  if (!value) return required ? 'required' : null;
  if (type === 'choice' || type === 'drop-down') return options.includes(value) ? null : 'not-offered';
  if (type === 'tick') return null;
  const length = [...value].length;
  if (length > Math.min(most ?? (type === 'long-text' ? longest['long-text'] : longest.text), maxAnswer))
    return 'too-long';
  return length < (least ?? 0) ? 'too-short' : null;
}

/** Without control characters and white space around; line ends as one newline, in long texts only. */
function clean(text: string, lines: boolean): string {
  const plain = text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0009\u000b-\u001f\u007f-\u009f]/g, ' ');
  return (lines ? plain : plain.replaceAll('\n', ' ')).trim();
}

/** What a line's answers lack for the questions that are asked now, and what they answer that is asked no longer. */
export function askedAgain(
  questions: readonly Question[],
  answers: readonly { name: string; label: string; value: string }[],
): { kind: 'asked-again' | 'no-longer-asked'; label: string }[] {
  const asked = new Map(questions.map((question) => [question.name, question]));
  const given = new Map(answers.map((answer) => [answer.name, answer]));
  return [
    ...questions.flatMap((question) => {
      const problem = problemOf(question, given.get(question.name)?.value ?? '');
      return problem ? [{ kind: 'asked-again' as const, label: question.label }] : [];
    }),
    ...answers.flatMap(({ name, label }) => (asked.has(name) ? [] : [{ kind: 'no-longer-asked' as const, label }])),
  ];
}
