import type { Money, RecordValue } from '../../src/core/language';

/** The listing by hand: string concatenation and nothing else. What no engine can beat. */
type Rec = RecordValue & Record<string, unknown>;
const special = /[&<>"']/;
const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const esc = (value: unknown): string => {
  const text = String(value);
  return special.test(text) ? text.replace(/[&<>"']/g, (sign) => entities[sign] as string) : text;
};

export function handListing(listing: Rec, money: (value: Money) => string): string {
  let o = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>${esc(listing.title)}</title>
</head>
<body>
  <h1>${esc(listing.title)}</h1>
  <p>${esc(listing.count)} goods</p>
  <ul class="tiles">
    `;
  for (const product of listing.products as Rec[]) {
    const image = product.image as Rec;
    const url = esc(product.url);
    o += `<li><article class="tile${product.sold_out ? ' is-out' : ''}">
      <a href="${url}"><img src="${esc(image.url)}" alt="${esc(image.alt)}" width="${esc(image.width)}" height="${esc(image.height)}"></a>
      <h3><a href="${url}">${esc(product.name)}</a></h3>
      `;
    if (product.summary) o += `<p>${esc(product.summary)}</p>`;
    o += '\n      ';
    const tags = product.tags as Rec[];
    if (tags.length) {
      o += '<ul class="tags">';
      for (const tag of tags) o += `<li><a href="${esc(tag.url)}">${esc(tag.name)}</a></li>`;
      o += '</ul>';
    }
    o += `\n      <p class="price"><strong>${esc(money(product.price as Money))}</strong>`;
    if (product.was_price) o += `<s>${esc(money(product.was_price as Money))}</s>`;
    o += `</p>
    </article></li>`;
  }
  o += '\n  </ul>\n  ';
  const pager = listing.pager as Rec[];
  if (pager.length) {
    o += '<nav class="pager"><ul>';
    for (const item of pager) {
      if (item.kind === 'gap') o += '<li>…</li>';
      else if (item.current) o += `<li><span aria-current="page">${esc(item.label)}</span></li>`;
      else o += `<li><a href="${esc(item.url)}" rel="${esc(item.kind)}">${esc(item.label)}</a></li>`;
    }
    o += '</ul></nav>';
  }
  return `${o}
</body>
</html>
`;
}
