import { parseTree, printParseErrorCode, type ParseError } from 'jsonc-parser';

/** What is wrong with a text that should be JSON (RFC 8259), and where: an offset in UTF-16 units. */
export interface JsonFault {
  says: string;
  offset: number;
}

/** The first thing that is wrong with a text as JSON, in words; null for one that is valid. */
export function jsonFault(text: string): JsonFault | null {
  const errors: ParseError[] = [];
  parseTree(text, errors, { disallowComments: true, allowTrailingComma: false });
  const [first] = errors;
  if (!text.trim()) return { says: 'it is empty', offset: 0 };
  return first ? { says: jsonErrorInWords(first, text), offset: Math.min(first.offset, text.length) } : null;
}

/** A parser's error in words that say what is missing or too much. */
export function jsonErrorInWords({ error, offset, length }: ParseError, text: string): string {
  const found = text.slice(offset, offset + Math.max(1, Math.min(length, 20))).trim();
  const comma = text.slice(0, offset).trimEnd().endsWith(',');
  const before = found ? ` before “${found}”` : ' at its end';
  switch (printParseErrorCode(error)) {
    case 'InvalidSymbol':
      return `“${found}” is not a value: texts stand in double quotes; else there are numbers, true, false and null`;
    case 'InvalidNumberFormat':
      return `“${found}” is not a number as JSON writes it`;
    case 'PropertyNameExpected':
      return comma && found.startsWith('}')
        ? `a comma too many stands${before}`
        : `a name in double quotes is missing${before}`;
    case 'ValueExpected':
      return comma ? `a comma too many stands${before}` : `a value is missing${before}`;
    case 'ColonExpected':
      return `a colon is missing${before}`;
    case 'CommaExpected':
      return `a comma is missing${before}`;
    case 'CloseBraceExpected':
      return `a closing brace } is missing${before}`;
    case 'CloseBracketExpected':
      return `a closing bracket ] is missing${before}`;
    case 'EndOfFileExpected':
      return `something stands after the end: “${found}”`;
    case 'InvalidCommentToken':
    case 'UnexpectedEndOfComment':
      return 'JSON has no comments';
    case 'UnexpectedEndOfString':
      return 'a text is not closed: its double quote is missing';
    case 'UnexpectedEndOfNumber':
      return 'a number ends early';
    case 'InvalidUnicode':
    case 'InvalidEscapeCharacter':
      return `“${found}” is not a character as JSON escapes it`;
    default:
      return `“${found}” may not stand here`;
  }
}
