/** The same pages as nunjucks has them. */
const pieces: Record<string, string> = {
  breadcrumbs: `<nav class="crumbs"><ol>{% for step in product.path %}<li><a href="{{ step.url }}">{{ step.name }}</a></li>{% endfor %}<li aria-current="page">{{ product.name }}</li></ol></nav>`,
  gallery: `<div class="gallery"><img src="{{ product.image.url }}" alt="{{ product.image.alt }}" width="{{ product.image.width }}" height="{{ product.image.height }}"><ul>{% for picture in product.media %}<li><a href="{{ picture.url }}"><img src="{{ picture.url }}" alt="{{ picture.alt }}"></a></li>{% endfor %}</ul></div>`,
  price: `<p class="price"><strong>{{ money(product.price) }}</strong>{% if product.was_price %}<s>{{ money(product.was_price) }}</s>{% endif %}</p>`,
  choice: `{% for option in product.options %}<div class="choice"><p>{{ option.name }}</p><ul>{% for value in option.values %}<li><a class="swatch{% if value.sold_out %} is-out{% endif %}" href="{{ value.url }}"{% if value.selected %} aria-current="true"{% endif %} title="{{ value.name }}"><span style="background: {{ value.colour }}"></span></a></li>{% endfor %}</ul></div>{% endfor %}`,
  stock: `{% if product.sold_out %}<p class="stock">Sold out</p>{% else %}<p class="stock">{{ product.stock }} in stock</p>{% endif %}`,
  tags: `{% if product.tags.length %}<ul class="tags">{% for tag in product.tags %}<li><a href="{{ tag.url }}">{{ tag.name }}</a></li>{% endfor %}</ul>{% endif %}`,
  attributes: `<dl>{% for attribute in product.attributes %}{% if attribute.visible %}<dt>{{ attribute.name }}</dt><dd>{{ attribute.value }}</dd>{% endif %}{% endfor %}</dl>`,
  related: `{% if product.related.length %}<ul class="tiles">{% for product in product.related %}<li><a href="{{ product.url }}"><img src="{{ product.image.url }}" alt="{{ product.image.alt }}"></a><h3>{{ product.name }}</h3><p>{{ money(product.price) }}</p></li>{% endfor %}</ul>{% endif %}`,
};
const include = (name: string) => `{% include "pieces/${name}" %}`;

export const nunjucksFiles: Record<string, string> = {
  listing: `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>{{ listing.title }}</title>
</head>
<body>
  <h1>{{ listing.title }}</h1>
  <p>{{ listing.count }} goods</p>
  <ul class="tiles">
    {% for product in listing.products %}<li><article class="tile{% if product.sold_out %} is-out{% endif %}">
      <a href="{{ product.url }}"><img src="{{ product.image.url }}" alt="{{ product.image.alt }}" width="{{ product.image.width }}" height="{{ product.image.height }}"></a>
      <h3><a href="{{ product.url }}">{{ product.name }}</a></h3>
      {% if product.summary %}<p>{{ product.summary }}</p>{% endif %}
      {% if product.tags.length %}<ul class="tags">{% for tag in product.tags %}<li><a href="{{ tag.url }}">{{ tag.name }}</a></li>{% endfor %}</ul>{% endif %}
      <p class="price"><strong>{{ money(product.price) }}</strong>{% if product.was_price %}<s>{{ money(product.was_price) }}</s>{% endif %}</p>
    </article></li>{% endfor %}
  </ul>
  {% if listing.pager.length %}<nav class="pager"><ul>{% for item in listing.pager %}{% if item.kind == 'gap' %}<li>…</li>{% elif item.current %}<li><span aria-current="page">{{ item.label }}</span></li>{% else %}<li><a href="{{ item.url }}" rel="{{ item.kind }}">{{ item.label }}</a></li>{% endif %}{% endfor %}</ul></nav>{% endif %}
</body>
</html>
`,
  ...Object.fromEntries(Object.entries(pieces).map(([name, text]) => [`pieces/${name}`, text])),
  product: `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>{{ product.name }} · {{ shop.name }}</title>
</head>
<body>
  <header><a class="brand" href="{{ shop.url }}">{{ shop.name }}</a><nav><ul>{% for item in menu %}<li><a href="{{ item.url }}"{% if item.current %} aria-current="page"{% endif %}>{{ item.label }}</a></li>{% endfor %}</ul></nav></header>
  <main>${include('breadcrumbs')}<article class="product">${include('gallery')}<div class="buy"><h1>{{ product.name }}</h1>{% if product.summary %}<p class="lead">{{ product.summary }}</p>{% endif %}${include('price')}${include('choice')}${include('stock')}${include('tags')}</div></article><section class="prose">{{ product.description.markup | safe }}</section>${include('attributes')}${include('related')}</main>
  <footer><p><a href="mailto:{{ shop.email }}">{{ shop.email }}</a></p></footer>
</body>
</html>
`,
};
