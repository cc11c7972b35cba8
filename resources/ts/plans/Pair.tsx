import { ArrowRight } from 'lucide-react';
import { useSlug } from '@/api/hooks';
import type { PlanPictures, ShownBoxes } from '@/api/types';
import { many, pixels, weight } from '@/ui/words';

interface Props {
  plan: number;
  pictures: PlanPictures;
  boxes: ShownBoxes;
}

/** What gives way and what comes, as the plan itself names them; then both in the boxes that show them. */
export function Pair({ plan, pictures, boxes }: Props) {
  const [now, after] = pictures;
  if (!now || !after) return null;
  const isPicture = now.width !== null && after.width !== null;
  return (
    <div className="mb-3 border-b border-line pb-3">
      <div className="flex items-start gap-2">
        <Side plan={plan} side={0} picture={now} />
        <ArrowRight size={18} className="mt-10 shrink-0 text-accent" aria-hidden="true" />
        <Side plan={plan} side={1} picture={after} />
      </div>
      {isPicture && boxes.length > 0 && (
        <section aria-label="In their boxes" className="mt-3">
          <h3 className="mb-1.5 text-[0.93rem] font-semibold">In the boxes that show it</h3>
          <ul className="flex flex-col gap-2.5">
            {boxes.slice(0, 3).map((box) => (
              <li key={`${box.width}-${box.height}-${box.carrier}`}>
                <div className="flex items-center gap-2">
                  <Boxed plan={plan} side={0} picture={now} box={box} />
                  <ArrowRight size={14} className="shrink-0 text-accent" aria-hidden="true" />
                  <Boxed plan={plan} side={1} picture={after} box={box} />
                </div>
                <p className="figures mt-0.5 text-[0.85rem] text-soft">{boxWords(box)}</p>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

type Picture = PlanPictures[number];
type Box = ShownBoxes[number];

function source(slug: string, plan: number, side: 0 | 1, picture: Picture): string | null {
  return picture.sha256 && picture.width !== null
    ? `/api/sites/${slug}/plans/${plan}/pictures/${side}?v=${picture.sha256.slice(0, 12)}`
    : null;
}

function Side({ plan, side, picture }: { plan: number; side: 0 | 1; picture: Picture }) {
  const slug = useSlug();
  const src = source(slug, plan, side, picture);
  return (
    <figure className="min-w-0 flex-1">
      {src ? (
        <img
          src={src}
          alt={`${picture.label}: ${picture.words}`}
          className="h-24 w-full rounded bg-well object-contain"
        />
      ) : (
        <span className="grid h-24 place-items-center rounded bg-well px-1 text-center text-[0.88rem] break-all text-soft">
          {picture.type ?? picture.words}
        </span>
      )}
      <figcaption className="mt-1 text-[0.85rem] leading-snug text-soft">
        <span className="block truncate" title={picture.words}>
          {picture.label}: {picture.words}
        </span>
        <span className="figures block">
          {[pixels(picture.width, picture.height), picture.weight === null ? null : weight(picture.weight)]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </figcaption>
    </figure>
  );
}

/** In a box of both sides a browser stretches a picture; where only one is stated, its own shape decides the other. */
function Boxed({ plan, side, picture, box }: { plan: number; side: 0 | 1; picture: Picture; box: Box }) {
  const slug = useSlug();
  const src = source(slug, plan, side, picture);
  const shape = (picture.width ?? 1) / (picture.height ?? 1);
  const fixed = box.carrier === '' && box.width !== null && box.height !== null;
  const ratio = fixed ? (box.width ?? 1) / (box.height ?? 1) : shape;
  return (
    <span className="flex min-w-0 flex-1 items-center justify-center">
      <img
        src={src ?? undefined}
        alt={`${picture.label}, ${boxWords(box)}`}
        className="max-h-28 max-w-full rounded-sm border border-line bg-well"
        style={{ aspectRatio: ratio, objectFit: 'fill', width: `min(100%, calc(7rem * ${ratio}))` }}
      />
    </span>
  );
}

function boxWords(box: Box): string {
  const size =
    box.width !== null && box.height !== null
      ? (pixels(box.width, box.height) ?? '')
      : box.width !== null
        ? `${box.width} wide`
        : box.height !== null
          ? `${box.height} high`
          : 'no stated size';
  return `${box.carrier === '' ? size : `${box.carrier}, made for ${size}`} · ${many(box.places, 'place')}`;
}
