/** What a release shows when nothing else can be made: its page for that, in each language, as JSON; made when it was published. */
export const errorPages = `
ALTER TABLE state ADD COLUMN error_pages TEXT NOT NULL DEFAULT '{}';
`;
