/** The same pages as eta has them, with its own includes; and, by the same words, for ejs. */
const listing = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title><%= it.listing.title %></title>
</head>
<body>
  <h1><%= it.listing.title %></h1>
  <p><%= it.listing.count %> goods</p>
  <ul class="tiles">
    <% for (const product of it.listing.products) { %><li><article class="tile<% if (product.sold_out) { %> is-out<% } %>">
      <a href="<%= product.url %>"><img src="<%= product.image.url %>" alt="<%= product.image.alt %>" width="<%= product.image.width %>" height="<%= product.image.height %>"></a>
      <h3><a href="<%= product.url %>"><%= product.name %></a></h3>
      <% if (product.summary) { %><p><%= product.summary %></p><% } %>
      <% if (product.tags.length) { %><ul class="tags"><% for (const tag of product.tags) { %><li><a href="<%= tag.url %>"><%= tag.name %></a></li><% } %></ul><% } %>
      <p class="price"><strong><%= it.money(product.price) %></strong><% if (product.was_price) { %><s><%= it.money(product.was_price) %></s><% } %></p>
    </article></li><% } %>
  </ul>
  <% if (it.listing.pager.length) { %><nav class="pager"><ul><% for (const item of it.listing.pager) { if (item.kind === 'gap') { %><li>…</li><% } else if (item.current) { %><li><span aria-current="page"><%= item.label %></span></li><% } else { %><li><a href="<%= item.url %>" rel="<%= item.kind %>"><%= item.label %></a></li><% } } %></ul></nav><% } %>
</body>
</html>
`;

const pieces = {
  breadcrumbs: `<nav class="crumbs"><ol><% for (const step of it.path) { %><li><a href="<%= step.url %>"><%= step.name %></a></li><% } %><li aria-current="page"><%= it.here %></li></ol></nav>`,
  gallery: `<div class="gallery"><img src="<%= it.product.image.url %>" alt="<%= it.product.image.alt %>" width="<%= it.product.image.width %>" height="<%= it.product.image.height %>"><ul><% for (const picture of it.product.media) { %><li><a href="<%= picture.url %>"><img src="<%= picture.url %>" alt="<%= picture.alt %>"></a></li><% } %></ul></div>`,
  price: `<p class="price"><strong><%= it.money(it.product.price) %></strong><% if (it.product.was_price) { %><s><%= it.money(it.product.was_price) %></s><% } %></p>`,
  choice: `<% for (const option of it.product.options) { %><div class="choice"><p><%= option.name %></p><ul><% for (const value of option.values) { %><li><a class="swatch<% if (value.sold_out) { %> is-out<% } %>" href="<%= value.url %>"<% if (value.selected) { %> aria-current="true"<% } %> title="<%= value.name %>"><span style="background: <%= value.colour %>"></span></a></li><% } %></ul></div><% } %>`,
  stock: `<% if (it.product.sold_out) { %><p class="stock">Sold out</p><% } else { %><p class="stock"><%= it.product.stock %> in stock</p><% } %>`,
  tags: `<% if (it.tags.length) { %><ul class="tags"><% for (const tag of it.tags) { %><li><a href="<%= tag.url %>"><%= tag.name %></a></li><% } %></ul><% } %>`,
  attributes: `<dl><% for (const attribute of it.product.attributes) { if (attribute.visible) { %><dt><%= attribute.name %></dt><dd><%= attribute.value %></dd><% } } %></dl>`,
  related: `<% if (it.products.length) { %><ul class="tiles"><% for (const product of it.products) { %><li><a href="<%= product.url %>"><img src="<%= product.image.url %>" alt="<%= product.image.alt %>"></a><h3><%= product.name %></h3><p><%= it.money(product.price) %></p></li><% } %></ul><% } %>`,
};

const body = (include: (piece: string, given: string) => string) =>
  `${include('breadcrumbs', 'path: it.product.path, here: it.product.name')}<article class="product">${include('gallery', 'product: it.product')}<div class="buy"><h1><%= it.product.name %></h1><% if (it.product.summary) { %><p class="lead"><%= it.product.summary %></p><% } %>${include('price', 'product: it.product, money: it.money')}${include('choice', 'product: it.product')}${include('stock', 'product: it.product')}${include('tags', 'tags: it.product.tags')}</div></article><section class="prose"><RAW it.product.description.markup %></section>${include('attributes', 'product: it.product')}${include('related', 'products: it.product.related, money: it.money')}`;

const frame = (inside: string) => `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title><%= it.title %> · <%= it.shop.name %></title>
</head>
<body>
  <header><a class="brand" href="<%= it.shop.url %>"><%= it.shop.name %></a><nav><ul><% for (const item of it.menu) { %><li><a href="<%= item.url %>"<% if (item.current) { %> aria-current="page"<% } %>><%= item.label %></a></li><% } %></ul></nav></header>
  <main>${inside}</main>
  <footer><p><a href="mailto:<%= it.shop.email %>"><%= it.shop.email %></a></p></footer>
</body>
</html>
`;

export const etaFiles: Record<string, string> = {
  listing,
  ...Object.fromEntries(Object.entries(pieces).map(([name, text]) => [`pieces/${name}`, text])),
  'layouts/shop': frame('<%~ it.body %>'),
  product: `<% layout('@layouts/shop', { title: it.product.name, shop: it.shop, menu: it.menu }) %>${body(
    (piece, given) => `<%~ include('@pieces/${piece}', { ${given} }) %>`,
  ).replace('<RAW', '<%~')}`,
};

/** ejs writes `<%-` for what is not escaped, and has no layouts: the page includes head and foot by one template. */
export const ejsFiles: Record<string, string> = {
  listing,
  ...Object.fromEntries(Object.entries(pieces).map(([name, text]) => [`pieces/${name}`, text])),
  product: frame(
    body((piece, given) => `<%- include('pieces/${piece}', { it: { ${given} } }) %>`).replace('<RAW', '<%-'),
  ),
};
