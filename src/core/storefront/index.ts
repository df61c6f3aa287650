/** From a request of the shop to its page. */
export { arrangedPage, type ArrangedPage } from './arrange';
export { askedAgain, readAnswers } from './answers';
export { makeErrorPage, makeFragment, makePage, makePiece, type Page, subjectAt } from './page';
export type { PageRequest } from './request';
export { makeSample } from './sample';
export { tracedPages } from './traced-pages';
