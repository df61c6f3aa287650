import { answerCall } from '@/server/api';

export const dynamic = 'force-dynamic';

/** Every call of the workbench's server: src/contract says which there are. */
export { answerCall as DELETE, answerCall as GET, answerCall as PATCH, answerCall as POST, answerCall as PUT };
