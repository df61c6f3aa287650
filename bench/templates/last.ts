/** The pages of the benchmarks in the template language. */
export const lastFiles: Record<string, string> = {
  'listing/default.html': `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>{listing.title}</title>
</head>
<body>
  <h1>{listing.title}</h1>
  <p>{listing.count} goods</p>
  <ul class="tiles">
    <li do:each="product in listing.products"><article class="{['tile', product.sold_out and 'is-out']}">
      <a href="{product.url}"><img src="{product.image.url}" alt="{product.image.alt}" width="{product.image.width}" height="{product.image.height}"></a>
      <h3><a href="{product.url}">{product.name}</a></h3>
      <p do:when="product.summary">{product.summary}</p>
      <ul class="tags" do:when="product.tags"><li do:each="tag in product.tags"><a href="{tag.url}">{tag.name}</a></li></ul>
      <p class="price"><strong>{product.price}</strong><s do:when="product.was_price">{product.was_price}</s></p>
    </article></li>
  </ul>
  <nav class="pager" do:when="listing.pager"><ul><group do:each="item in listing.pager"><li do:when="item.kind == 'gap'">…</li><li do:or-when="item.current"><span aria-current="page">{item.label}</span></li><li do:otherwise><a href="{item.url}" rel="{item.kind}">{item.label}</a></li></group></ul></nav>
</body>
</html>
`,
  'product/default.html': `<draw name="layouts/shop" title="{product.name}"><draw name="pieces/breadcrumbs" path="{product.path}" here="{product.name}"/><article class="product"><draw name="pieces/gallery" product="{product}"/><div class="buy"><h1>{product.name}</h1><p class="lead" do:when="product.summary">{product.summary}</p><draw name="pieces/price" product="{product}"/><draw name="pieces/choice" product="{product}"/><draw name="pieces/stock" product="{product}"/><draw name="pieces/tags" tags="{product.tags}"/></div></article><section class="prose">{product.description}</section><draw name="pieces/attributes" product="{product}"/><draw name="pieces/related" products="{product.related}"/></draw>`,
  'layouts/shop.html': `<takes name="title" type="text" required>
<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>{title} · {shop.name}</title>
</head>
<body>
  <header><a class="brand" href="{shop.url}">{shop.name}</a><nav><ul><li do:each="item in look.menu"><a href="{item.url}" aria-current="{item.current ? 'page' : none}">{item.label}</a></li></ul></nav></header>
  <main><gap></gap></main>
  <footer><p><a href="mailto:{shop.email}">{shop.email}</a></p></footer>
</body>
</html>
`,
  'pieces/breadcrumbs.html': `<takes name="path" type="List of Category"><takes name="here" type="text" required><nav class="crumbs"><ol><li do:each="step in path"><a href="{step.url}">{step.name}</a></li><li aria-current="page">{here}</li></ol></nav>`,
  'pieces/gallery.html': `<takes name="product" type="Product" required><div class="gallery"><img src="{product.image.url}" alt="{product.image.alt}" width="{product.image.width}" height="{product.image.height}"><ul><li do:each="picture in product.media"><a href="{picture.url}"><img src="{picture.url}" alt="{picture.alt}"></a></li></ul></div>`,
  'pieces/price.html': `<takes name="product" type="Product" required><p class="price"><strong>{product.price}</strong><s do:when="product.was_price">{product.was_price}</s></p>`,
  'pieces/choice.html': `<takes name="product" type="Product" required><div class="choice" do:each="option in product.options"><p>{option.name}</p><ul><li do:each="value in option.values"><a class="{['swatch', value.sold_out and 'is-out']}" href="{value.url}" aria-current="{value.selected ? 'true' : none}" title="{value.name}"><span style="background: {value.colour}"></span></a></li></ul></div>`,
  'pieces/stock.html': `<takes name="product" type="Product" required><p class="stock" do:when="product.sold_out">Sold out</p><p class="stock" do:otherwise>{product.stock} in stock</p>`,
  'pieces/tags.html': `<takes name="tags" type="List of Tag" required><ul class="tags" do:when="tags"><li do:each="tag in tags"><a href="{tag.url}">{tag.name}</a></li></ul>`,
  'pieces/attributes.html': `<takes name="product" type="Product" required><dl><group do:each="attribute in product.attributes" do:when="attribute.visible"><dt>{attribute.name}</dt><dd>{attribute.value}</dd></group></dl>`,
  'pieces/related.html': `<takes name="products" type="List of Product" required><ul class="tiles" do:when="products"><li do:each="product in products"><a href="{product.url}"><img src="{product.image.url}" alt="{product.image.alt}"></a><h3>{product.name}</h3><p>{product.price}</p></li></ul>`,
};
