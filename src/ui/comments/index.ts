/** What is said of places of a draft: their signs on the page, the list, and the field for more. */
export { type CommentTarget, Comments } from './Comments';
export { CommentsHere } from './CommentsHere';
export { CommentSigns } from './CommentSigns';
export { OpenComments } from './OpenComments';
export { useComments } from './useComments';
