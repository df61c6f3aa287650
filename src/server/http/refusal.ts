import type { Refusal } from '@/contract/shared';

/** A request that is refused: status, code, and a sentence that says what and where. */
export class Refused extends Error {
  override readonly name = 'Refused';
  constructor(
    readonly status: number,
    readonly body: Refusal,
  ) {
    super(body.message);
  }
}

export function refuse(status: number, code: string, message: string, more: Partial<Refusal> = {}): never {
  throw new Refused(status, { code, message, ...more });
}
/** Whether an error is a sentence for people, and no fault of the program. */
export const isRefusal = (error: unknown): error is Error =>
  error instanceof RangeError ||
  ['Refused', 'CatalogueFileError', 'DataLost', 'DataFolderError'].includes((error as Error).name);
