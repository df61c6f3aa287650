'use client';
import { hierarchy, treemap, treemapSquarify, type HierarchyRectangularNode } from 'd3-hierarchy';
import { useId, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { wayTo, type Cell, type CoverNode } from '@/core/alternates';
import { SignPattern } from './Sign';

interface Props {
  tree: CoverNode;
  /** How many subjects there are. */
  size: number;
  /** Names of the templates in their order: their places are their signs. */
  templates: readonly string[];
  labelOf: (template: string) => string;
  noun: string;
  /** Key of the group that fills the map; null: all of it. */
  zoom: string | null;
  onZoom: (group: string | null) => void;
  chosen: Cell | null;
  onChoose: (cell: Cell | null) => void;
  /** Which cells stand out; null: all do. */
  stands: ((cell: Cell) => boolean) | null;
}

/** Height of the strip that names a group, in pixels. */
const strip = 20;
type Box = HierarchyRectangularNode<CoverNode>;

/**
 * A map of a catalogue: area by the number of subjects, in groups that stand in one another, colour and pattern by the
 * template. A click on a cell chooses it, on a group's name goes into it. By keyboard: arrows go to the next part in that
 * direction, Enter chooses or goes in, Escape goes out.
 */
export function CoverMap(props: Props) {
  const { tree, templates, labelOf, noun, zoom, onZoom, chosen, onChoose, stands } = props;
  const room = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const id = useId().replace(/[^a-zA-Z0-9-]/g, '');
  useLayoutEffect(() => {
    const element = room.current;
    if (!element) return;
    const look = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    look.observe(element);
    return () => look.disconnect();
  }, []);
  const boxes = useMemo(() => {
    const { width, height } = size;
    if (!width || !height) return null;
    const top = (zoom !== null && wayTo(tree, zoom).at(-1)) || tree;
    const root = hierarchy(top, (node) => node.parts)
      .sum((node) => node.cell?.count ?? 0)
      .sort((a, b) => Number(a.data.cell !== null) - Number(b.data.cell !== null) || (b.value ?? 0) - (a.value ?? 0));
    return treemap<CoverNode>()
      .size([width, height])
      .tile(treemapSquarify.ratio(1.3))
      .round(true)
      .paddingInner(2)
      .paddingTop((node) => (node.depth > 0 && hasRoom(node as Box) ? strip : 0))(root);
  }, [tree, zoom, size]);

  const keys = (event: KeyboardEvent<SVGSVGElement>) => {
    const here = (event.target as Element).closest<SVGElement>('[data-part]');
    if (event.key === 'Escape' && zoom !== null) {
      event.preventDefault();
      onZoom(wayTo(tree, zoom).at(-2)?.key ?? null);
      return;
    }
    if (!here) return;
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      here.dispatchEvent(new MouseEvent('click', { bubbles: true }));
      return;
    }
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    next(event.currentTarget, here, way as [number, number])?.focus();
  };

  const parts = boxes?.descendants().filter((box) => box.depth > 0) ?? [];
  return (
    <div className="cover-map" ref={room}>
      {size.width > 0 && (
        <svg
          width={size.width}
          height={size.height}
          role="group"
          aria-label={`Map: ${props.size} ${noun} by what they get. Arrows go from part to part, Enter chooses, Escape goes out.`}
          onKeyDown={keys}
        >
          <defs>
            {templates.map((name, at) => (
              <SignPattern key={name} id={`${id}-${at}`} at={at} scale={1.2} />
            ))}
          </defs>
          {parts.map((box) =>
            box.data.cell ? (
              <CellShape
                key={box.data.key}
                box={box}
                cell={box.data.cell}
                fill={`url(#${id}-${Math.max(0, templates.indexOf(box.data.cell.template))})`}
                label={`${labelOf(box.data.cell.template)}${box.data.cell.because === 'default' ? '' : ` by ${box.data.cell.because}`}`}
                group={box.parent?.data.name ?? ''}
                noun={noun}
                chosen={same(chosen, box.data.cell)}
                faint={stands !== null && !stands(box.data.cell)}
                onChoose={() => onChoose(box.data.cell)}
              />
            ) : (
              <GroupShape key={box.data.key} box={box} noun={noun} onZoom={() => onZoom(box.data.key)} />
            ),
          )}
        </svg>
      )}
    </div>
  );
}

const same = (a: Cell | null, b: Cell): boolean =>
  a !== null && a.group === b.group && a.template === b.template && a.because === b.because;

/** Whether a group's name can be read where it stands: its share of the map is guessed before it is laid out. */
function hasRoom(box: Box): boolean {
  return box.data.cell === null && box.x1 - box.x0 > 44 && box.y1 - box.y0 > strip + 10;
}

/** A text that fits a width, at about 6.4 pixels a letter. */
function fitting(text: string, width: number): string {
  const letters = Math.floor(width / 6.4);
  if (text.length <= letters) return text;
  return letters < 7 ? '' : `${text.slice(0, letters - 1)}…`;
}

function GroupShape({ box, noun, onZoom }: { box: Box; noun: string; onZoom: () => void }) {
  const [width, height] = [box.x1 - box.x0, box.y1 - box.y0];
  if (!hasRoom(box)) return null;
  const count = box.value ?? 0;
  const shapes = (
    <>
      <rect width={width} height={height} className={`map-ground map-depth-${Math.min(3, box.depth)}`} />
      <rect width={width} height={strip} className="map-strip" />
      <text x="6" y="14.5">
        {fitting(`${box.data.name} ${count}`, width - 10)}
      </text>
    </>
  );
  const place = `translate(${box.x0},${box.y0})`;
  if (box.data.itself)
    return (
      <g className="map-group" transform={place}>
        {shapes}
      </g>
    );
  return (
    <g
      className="map-group"
      data-part=""
      role="button"
      tabIndex={0}
      aria-label={`Go into ${box.data.name}: ${count} ${noun}`}
      transform={place}
      onClick={onZoom}
    >
      <title>{`${box.data.name}: ${count} ${noun}. Click to go into it`}</title>
      {shapes}
    </g>
  );
}

interface CellProps {
  box: Box;
  cell: Cell & { count: number };
  fill: string;
  label: string;
  group: string;
  noun: string;
  chosen: boolean;
  faint: boolean;
  onChoose: () => void;
}

function CellShape({ box, cell, fill, label, group, noun, chosen, faint, onChoose }: CellProps) {
  const [width, height] = [box.x1 - box.x0, box.y1 - box.y0];
  if (width < 1 || height < 1) return null;
  const text = fitting(`${label} ${cell.count}`, width - 18) || (width > 34 ? String(cell.count) : '');
  const says = `${group ? `${group}: ` : ''}${cell.count} ${noun} with ${label}`;
  return (
    <g
      className="map-cell"
      data-part=""
      data-faint={faint || undefined}
      data-chosen={chosen || undefined}
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={says}
      transform={`translate(${box.x0},${box.y0})`}
      onClick={onChoose}
    >
      <title>{says}</title>
      <rect width={width} height={height} fill={fill} />
      {text && height > 26 && (
        <>
          <rect
            className="map-label"
            x="5"
            y="5"
            width={Math.min(width - 10, text.length * 6.6 + 10)}
            height="17"
            rx="4"
          />
          <text x="10" y="17.5">
            {text}
          </text>
        </>
      )}
      <rect className="map-edge" width={width} height={height} />
    </g>
  );
}

/** The nearest part in a direction. */
function next(svg: SVGSVGElement, here: SVGElement, [x, y]: [number, number]): SVGElement | null {
  const from = here.getBoundingClientRect();
  const middle = (box: DOMRect) => [box.left + box.width / 2, box.top + Math.min(box.height / 2, strip / 2)] as const;
  const [fx, fy] = middle(from);
  let best: SVGElement | null = null;
  let least = Infinity;
  for (const part of svg.querySelectorAll<SVGElement>('[data-part]')) {
    if (part === here) continue;
    const [px, py] = middle(part.getBoundingClientRect());
    const along = (px - fx) * x + (py - fy) * y;
    const aside = Math.abs((px - fx) * y) + Math.abs((py - fy) * x);
    if (along <= 1) continue;
    const far = along + aside * 2.5;
    if (far < least) [best, least] = [part, far];
  }
  return best;
}
