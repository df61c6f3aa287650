import sanitizeHtml from 'sanitize-html';

/** Rich text as it comes in: cleaned of everything that runs or loads, and balanced. What the language prints as Html went through here. */
export function cleanRichText(markup: string): string {
  return sanitizeHtml(markup, {
    allowedTags: [...sanitizeHtml.defaults.allowedTags.filter((tag) => tag !== 'main'), 'img', 'del', 'ins'],
    allowedAttributes: {
      a: ['href', 'title', 'rel', 'hreflang', 'lang'],
      img: ['src', 'alt', 'width', 'height', 'title', 'loading'],
      ol: ['start', 'reversed', 'type'],
      td: ['colspan', 'rowspan'],
      th: ['colspan', 'rowspan', 'scope'],
      time: ['datetime'],
      '*': ['lang', 'dir', 'id'],
    },
    allowedSchemes: ['http', 'https', 'mailto', 'tel', 'sms'],
    allowedSchemesByTag: { img: ['http', 'https'] },
    allowProtocolRelative: false,
  });
}
