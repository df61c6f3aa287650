/** What is noted for who runs Last: faults, and where `LAST_LOG` says so each answer. */
export { fault, logAnswer, openLog } from './log';
export { idIn, idOf, requestIdHeader } from './request-id';
export { plainPath } from './plain-path';
