/** The draft that one is in where the address names none. */
export const firstDraft = 'spring';
