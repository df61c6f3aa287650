'use client';
import { Button, Tooltip } from 'antd';
import { labelOf, layerName, type SpotState } from './useSpot';

interface Props {
  spot: SpotState;
  pointing: boolean;
  onOpen: (path: string, layer: string | null) => void;
}

/** Below the page: what is pointed at, or what the caret's element is on it, and what can be done there. */
export function PlaceBar({ spot, pointing }: Props) {
  const where = spot.pointed ?? spot.where;
  if (!where) {
    return (
      <div className="place-bar quiet" role="status">
        {pointing
          ? 'Move over the page, or walk it with the arrow keys; click or Enter goes to the source.'
          : 'Point at something on the page to see which file it comes from: Ctrl . or hold Alt.'}
      </div>
    );
  }
  return (
    <div className="place-bar">
      <span className="place-what" role="status">
        <code>{labelOf(where.place)}</code> {where.file}, line {where.place.line} <em>{layerName(where.layer)}</em>
        {!spot.pointed && (
          <small>
            {where.count === 0
              ? 'not on this page'
              : where.count === 1
                ? 'once on this page'
                : `${where.count} times on this page`}
          </small>
        )}
      </span>
      {!spot.pointed && where.count > 0 && (
        <Tooltip title="Scroll the page to it (Ctrl I)">
          <Button size="small" onClick={spot.scrollTo}>
            Show
          </Button>
        </Tooltip>
      )}
    </div>
  );
}
