/** From a request of the shop to its page. */
export { askedAnew, readAnswers } from './answers';
export {
  makeErrorPage,
  makeFragment,
  makePage,
  makePiece,
  type Page,
  type PageRequest,
  subjectAt,
  tracedPages,
} from './page';
