/** What all answers share: addresses, the gate, headers, cookies, refusals. */
export { addresses, Addresses, isLoopback, setAddresses, setupFrom, type Site } from './addresses';
export { Allowance } from './allowance';
export { answer, bodyOf, bodyToFile, byContract, bytesOf, formOf, limitedText, refusing } from './answers';
export { authorOf, madeNow } from './author';
export { etagOf, isCondition, matches, mayWrite } from './conditions';
export { cookieIn, cookieName, cookieText } from './cookies';
export { contentType } from './content-type';
export { bearerGate, type Knock, siteGate, soundAddress, workbenchGate } from './gate';
export { type AnswerKind, safetyHeaders } from './headers';
export { isRefusal, refuse, Refused } from './refusal';
export { openToken, token } from './token';
export { type Asking, may, setGuarded, setKnowing, stillAsks, whoAsks, whoHeader, writeWho } from './who';
