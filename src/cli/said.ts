import { isRefusal } from '@/server/http';

export type Say = (line: string) => void;

/** The exit status that the work gives, else 0; 1 with a sentence for what was refused. */
export async function said(complain: Say, work: () => Promise<number | void>): Promise<number> {
  try {
    return (await work()) ?? 0;
  } catch (error) {
    if (!isRefusal(error)) throw error;
    complain(error.message);
    return 1;
  }
}
