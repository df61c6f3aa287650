import type { Expression } from '../1-parse/expression';
import { writeExpression } from '../1-parse/write';
import type { Inference } from './infer';

/**
 * Reports what a condition can only ever come out as: each part by itself, since `a and b` with an `a` that always holds is
 * as mistaken as a condition on `a` alone. `negated`: under a `not`.
 */
export function judgeCondition(test: Expression, inference: Inference, negated = false): void {
  if (test.kind === 'not') return judgeCondition(test.of, inference, !negated);
  if (test.kind === 'and' || test.kind === 'or') {
    judgeCondition(test.left, inference, negated);
    judgeCondition(test.right, inference, negated);
    return;
  }
  const type = inference.types.get(test);
  if (!type || type.empty === 'perhaps' || type.kind === 'Any') return;
  const shown = writeExpression(test);
  if (type.kind === 'Number' && type.literal === undefined) {
    const text =
      test.kind === 'name' || test.kind === 'field' || test.kind === 'filter'
        ? test.kind === 'filter'
          ? `(${shown}) > 0`
          : `${shown} > 0`
        : '';
    inference.report('bare-number', test, { text });
    return;
  }
  const reason = inference.reasons.get(test);
  const holds = type.empty === 'no';
  const why =
    reason ??
    (type.literal !== undefined || test.kind === 'none'
      ? 'it is written out'
      : holds
        ? `${shown} is never empty`
        : `${shown} is always empty`);
  inference.report(holds !== negated ? 'always' : 'never', test, { why });
}
