/**
 * The base theme's largest template, product/default.html, as nunjucks would have it: the same page of the same parts. To be
 * brought up to date with it: what is compared is the reading of one page.
 */
export const largestNunjucks = `{% extends "layouts/shop" %}
{% block title %}{{ product.name }}{% endblock %}
{% block summary %}{{ product.summary or product.description }}{% endblock %}
{% block picture %}{% set picture = product.image %}{% include "pieces/picture" %}{% endblock %}
{% block head %}
    <script type="application/ld+json">{{ product | structured | dump | safe }}</script>
    {% if product.category %}<script type="application/ld+json">{{ product.category.path | rejectattr("root") | structured | dump | safe }}</script>{% endif %}
{% endblock %}
{% block main %}
  {% set path = product.category.path %}{% set here = product.name %}{% include "pieces/breadcrumbs" %}
  <article class="product" data-chosen="{{ fragment('pieces/chosen', product=product) }}">
    {% include "pieces/gallery" %}
    <div class="buy">
      {% if product.brand %}<p class="maker"><a href="{{ product.brand.url }}">{{ product.brand.name }}</a></p>{% endif %}
      <h1>{{ product.name }}</h1>
      {% if product.summary %}<p class="lead">{{ product.summary }}</p>{% endif %}
      {% set variant = product.variant %}{% include "pieces/price" %}
      {% for placement in shelf("below-price") %}{% include placement.piece %}{% endfor %}
      {% if product.options.length %}{% include "pieces/choice" %}{% endif %}
      {% if product.variant %}{% set variant = product.variant %}{% include "pieces/stock" %}{% endif %}
      {% if product.variant and not product.sold_out %}<form class="order" method="post" action="{{ shop.cart_url }}">
        {% if product.members.length %}{% set members = product.members %}{% include "pieces/member-choices" %}{% endif %}
          {% if product.fields.sold_by == 'metre' %}{% set question = { name: 'ends', label: t('ask.ends'), options: t('ask.ends_options'), required: true } %}{% include "pieces/ask/choice" %}{% endif %}
          {% if product.fields.sold_by == 'metre' %}{% set question = { name: 'thread', label: t('ask.thread'), options: t('ask.thread_options') } %}{% include "pieces/ask/drop-down" %}{% endif %}
          {% if 'to-measure' in product.tags %}{% set question = { name: 'measures', label: t('ask.measures'), help: t('ask.measures_help'), least: 10, most: 600, required: true } %}{% include "pieces/ask/long-text" %}{% endif %}
          {% if product.type == 'canvas' or product.type == 'clothing' %}{% set question = { name: 'initials', label: t('ask.initials'), most: 4 } %}{% include "pieces/ask/text" %}{% endif %}
          {% if 'gift' in product.tags %}{% set question = { name: 'present', label: t('ask.present') } %}{% include "pieces/ask/tick" %}{% endif %}
        {% include "pieces/order" %}
      </form>{% endif %}
      {% if product.tags.length %}{% set tags = product.tags %}{% include "pieces/tags" %}{% endif %}
      {% if look.tabs_beside %}{% include "pieces/product-tabs" %}{% endif %}
    </div>
  </article>
  {% if not look.tabs_beside %}{% include "pieces/product-tabs" %}{% endif %}
  {% if product.members.length %}<section class="members">
    <h2>{{ t('product.members') }}</h2>
    {% set products = product.members %}{% set columns = 4 %}{% include "pieces/tiles" %}
  </section>{% endif %}
  {% set shown = product.categories | rejectattr("root") %}{% if shown.length %}<nav class="belongs" aria-label="{{ t('product.categories') }}">
    <h2>{{ t('product.categories') }}</h2>
    <ul>
      {% for category in shown %}<li>
        <a href="{{ category.url }}">{% if category.image %}{% set picture = category.image %}{% set width = 56 %}{% set height = 56 %}{% include "pieces/picture" %}{% endif %}<span>{{ category.name }}</span></a>
      </li>{% endfor %}
    </ul>
  </nav>{% endif %}
  {% if product.related.length %}<section>
    <h2>{{ t('product.related') }}</h2>
    {% set tiles = product.related.slice(0, look.listings.related.page_size) | split_by(look.listings.related.split_by, pictures=look.listings.related.pictures) %}{% set columns = look.listings.related.columns %}{% include "pieces/tiles" %}
  </section>{% endif %}
{% endblock %}
`;
