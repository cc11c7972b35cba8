import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { TrailData } from '@/api/types';
import { StandingShape } from '@/ui/Standing';
import { middle } from '@/ui/words';
import { layoutTrail, pathThrough, type TrailLine, type TrailNode } from './layout';

interface Props {
  data: TrailData;
  onRecord: (record: number) => void;
}

/** Width of a character of the face that paths are set in, in pixels. */
const PATH_CHARACTER = 7.4;

/** The trail: from the files of an item, through the records that name them and their carriers, to the public addresses. */
export function Trail({ data, onRecord }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(900);
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [hovered, setHovered] = useState<string | null>(null);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    setWidth(element.clientWidth);
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const layout = useMemo(() => layoutTrail(data, opened, width), [data, opened, width]);
  const places = useMemo(() => new Map(layout.nodes.map((n) => [n.id, n])), [layout]);
  const lit = useMemo(() => (hovered ? pathThrough(hovered, layout.lines) : null), [hovered, layout]);
  const columnWidth = layout.columns[0]?.width ?? 150;

  function act(node: TrailNode) {
    if (node.kind === 'bundle' || node.kind === 'page-bundle') {
      setOpened((now) => {
        const next = new Set(now);
        if (!next.delete(node.id)) next.add(node.id);
        return next;
      });
    } else if (node.kind === 'record' && node.records[0] !== undefined) onRecord(node.records[0]);
  }

  return (
    <div ref={box} className="relative min-h-0 flex-1 overflow-auto" data-testid="trail">
      <div className="relative" style={{ width: layout.width, height: layout.height }}>
        <svg width={layout.width} height={layout.height} className="absolute inset-0" aria-hidden="true">
          {layout.lines.map((line) => {
            const a = places.get(line.from);
            const b = places.get(line.to);
            if (!a || !b) return null;
            const x1 = a.x + columnWidth;
            const y1 = a.y + a.h / 2;
            const x2 = b.x;
            const y2 = b.y + b.h / 2;
            const on = !lit || (lit.has(line.from) && lit.has(line.to));
            return (
              <path
                key={line.id}
                d={way(x1, y1, line.through, x2, y2)}
                fill="none"
                stroke={line.broken ? 'var(--alert)' : line.quiet ? 'var(--idle)' : 'var(--accent)'}
                strokeWidth={1.4 + 2.6 * Math.log2(1 + line.count) * 0.55}
                strokeDasharray={line.broken ? '5 4' : line.quiet ? '2 4' : undefined}
                strokeLinecap="round"
                opacity={on ? (lit ? 0.85 : 0.42) : 0.07}
              />
            );
          })}
        </svg>
        {layout.columns.map((c, i) => (
          <h3
            key={i}
            className="absolute top-1 text-[0.88rem] font-semibold text-soft"
            style={{ left: c.x, width: c.width }}
          >
            {c.title}
          </h3>
        ))}
        {layout.nodes.map((node) => (
          <TrailBox
            key={node.id}
            node={node}
            width={columnWidth}
            dim={lit !== null && !lit.has(node.id)}
            onHover={setHovered}
            onAct={() => act(node)}
            open={opened.has(node.id)}
          />
        ))}
      </div>
    </div>
  );
}

/** A smooth way from box to box, level where it passes between the boxes of a column. */
function way(x1: number, y1: number, through: TrailLine['through'], x2: number, y2: number): string {
  let d = `M${x1} ${y1}`;
  let [x, y] = [x1, y1];
  for (const stop of [...through, { x1: x2, x2, y: y2 }]) {
    const bend = Math.max(12, (stop.x1 - x) / 2);
    d += `C${x + bend} ${y} ${stop.x1 - bend} ${stop.y} ${stop.x1} ${stop.y}`;
    if (stop.x2 > stop.x1) d += `L${stop.x2} ${stop.y}`;
    [x, y] = [stop.x2, stop.y];
  }
  return d;
}

function TrailBox({
  node,
  width,
  dim,
  onHover,
  onAct,
  open,
}: {
  node: TrailNode;
  width: number;
  dim: boolean;
  onHover: (id: string | null) => void;
  onAct: () => void;
  open: boolean;
}) {
  const acts = node.kind === 'record' || node.kind === 'bundle' || node.kind === 'page-bundle';
  const small = node.h < 40;
  const isPath = node.kind === 'page' || node.kind === 'file';
  const inside = (
    <>
      {node.state && <StandingShape standing={node.state} />}
      <span className="min-w-0 flex-1">
        <span
          className={`${node.h > 50 ? 'line-clamp-2 break-words' : 'block truncate'} leading-tight ${isPath ? 'path' : 'font-semibold'} ${node.broken ? 'text-alert' : ''}`}
        >
          {isPath
            ? middle(node.title, Math.floor((width - (node.state ? 40 : 20)) / PATH_CHARACTER))
            : node.title}
        </span>
        {!small && (
          <span className="figures block truncate text-[0.82rem] leading-tight text-soft">
            {node.broken && node.kind !== 'missing' ? 'broken · ' : ''}
            {node.sub}
          </span>
        )}
      </span>
    </>
  );
  const shape = `absolute flex items-center gap-2 rounded-md border px-2 text-left transition-opacity ${
    node.kind === 'bundle' || node.kind === 'page-bundle'
      ? 'border-accent/60 bg-tint shadow-[3px_3px_0_-1px_var(--sheet),3px_3px_0_0_var(--line)]'
      : node.broken
        ? 'border-alert/60 bg-sheet'
        : node.kind === 'idle-files'
          ? 'border-dashed border-line bg-transparent'
          : 'border-line bg-sheet'
  } ${dim ? 'opacity-25' : ''}`;
  const place = { left: node.x, top: node.y, width, height: node.h };
  const watch = { onMouseEnter: () => onHover(node.id), onMouseLeave: () => onHover(null) };
  return acts ? (
    <button
      type="button"
      className={`${shape} hover:border-accent`}
      style={place}
      {...watch}
      onFocus={() => onHover(node.id)}
      onBlur={() => onHover(null)}
      onClick={onAct}
      title={`${node.title}\n${node.sub}`}
      aria-expanded={node.kind === 'record' ? undefined : open}
      data-node={node.id}
    >
      {inside}
    </button>
  ) : (
    <div className={shape} style={place} {...watch} title={`${node.title}\n${node.sub}`} data-node={node.id}>
      {inside}
    </div>
  );
}
