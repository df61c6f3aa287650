import { severalValues, type FieldShape } from '@/core/catalogue';
import { type DecimalMark, readDay, readFlag, readList, readNumber } from './values';

/**
 * The value of a custom field as it is kept, from what someone wrote; why it cannot be, where it does not fit. Several values are
 * written one a line, or (`inWords`) as a list between commas too.
 */
export function readFieldValue(
  text: string,
  shape: FieldShape | undefined,
  { inWords: isList = false, mark = '.' as DecimalMark } = {},
): string | { wrong: string } {
  if (!shape?.several) return readOne(text, shape, mark);
  const read = (isList ? readList(text) : severalValues(text)).map((one) => readOne(one, shape, mark));
  return (
    read.find((one): one is { wrong: string } => typeof one === 'object') ?? [...new Set(read as string[])].join('\n')
  );
}

function readOne(text: string, shape: FieldShape | undefined, mark: DecimalMark): string | { wrong: string } {
  const given = text.trim();
  const { type = 'text', choices = [] } = shape ?? {};
  if (given && choices.length) {
    const chosen = choices.find((one) => one.toLowerCase() === given.toLowerCase());
    return chosen ?? { wrong: `“${given}” is none of its choices: ${choices.slice(0, 12).join(', ')}` };
  }
  if (!given || type === 'text') return given;
  if (type === 'number') {
    const number = readNumber(given, mark);
    return number === null ? { wrong: `“${given}” is not a number: write it as 12.5` } : String(number);
  }
  if (type === 'flag') {
    const flag = readFlag(given);
    return flag === null ? { wrong: `“${given}” is neither yes nor no` } : String(flag);
  }
  if (type === 'day') return readDay(given) ?? { wrong: `“${given}” is not a day: write it as 2026-12-31` };
  if (type === 'link' && !/^(?:https?:\/\/|\/|mailto:|tel:)\S+$/i.test(given))
    return { wrong: `“${given}” is not a link: it begins with https:// or with /` };
  return given;
}
