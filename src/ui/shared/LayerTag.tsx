import type { LayerItem } from '@/contract/shared';

const says = { base: 'Base theme', 'add-on': 'Add-on', shop: 'The shop’s own' };

/** A layer by word, outline and pattern: dotted for the base, hatched for an add-on, solid for the shop. */
export function LayerTag({ layer }: { layer: LayerItem }) {
  const name = layer.kind === 'shop' ? '' : `: ${layer.name} ${layer.version}`;
  return (
    <span className={`layer layer-${layer.kind}`} title={`${says[layer.kind]}${name}`}>
      {layer.kind}
    </span>
  );
}
