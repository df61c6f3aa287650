/** The base theme’s largest template, product/default.html, as nunjucks would have it. */
export const largestNunjucks = `{% extends "layouts/shop" %}
{% block title %}{{ product.name }}{% endblock %}
{% block summary %}{{ product.summary or product.description }}{% endblock %}
{% block main %}
  {% set path = product.category.path %}{% set here = product.name %}{% include "pieces/breadcrumbs" %}
  <article class="product">
    {% include "pieces/gallery" %}
    <div class="buy">
      {% if product.brand %}<p class="maker"><a href="{{ product.brand.url }}">{{ product.brand.name }}</a></p>{% endif %}
      <h1>{{ product.name }}</h1>
      {% if product.summary %}<p class="lead">{{ product.summary }}</p>{% endif %}
      {% set variant = product.variant %}{% include "pieces/price" %}
      {% if product.options.length %}{% include "pieces/choice" %}{% endif %}
      {% if product.variant %}{% include "pieces/stock" %}{% endif %}
      {% if product.variant and not product.variant.sold_out and shop.email %}<p>
        <a class="button" href="mailto:{{ shop.email }}?subject={{ t('product.order_subject', name=product.name, sku=product.variant.sku) | urlencode }}">{{ t('product.order') }}</a>
      </p>{% endif %}
      {% set tags = product.tags %}{% if product.tags.length %}{% include "pieces/tags" %}{% endif %}
    </div>
  </article>
  {% if product.members.length %}<section class="members">
    <h2>{{ t('product.members') }}</h2>
    {% set products = product.members %}{% set columns = 4 %}{% include "pieces/tiles" %}
  </section>{% endif %}
  <div class="details">
    {% if product.description %}<section class="prose">
      <h2>{{ t('product.description') }}</h2>
      {{ product.description.markup | safe }}
    </section>{% endif %}
    {% include "pieces/attributes" %}
  </div>
  {% if product.related.length %}<section>
    <h2>{{ t('product.related') }}</h2>
    {% set products = product.related.slice(0, 4) %}{% set columns = 4 %}{% include "pieces/tiles" %}
  </section>{% endif %}
{% endblock %}
`;
