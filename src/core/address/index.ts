/** Addresses of the shop: which subject a path shows, and which path shows a subject. */
export { draftAddress, pageOfDraft } from './draft-address';
export { localePrefix, pathOf, readLocale, readPath, type Subject, subjectKinds } from './route';
