/** A circle laid in a bundle, by its middle. */
export interface Laid {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** Circles laid beside each other without overlap, in the order they were given, round the middle of the circle about them. */
export interface Packing {
  readonly circles: readonly Laid[];
  /** Diameter of the circle about them all. */
  readonly diameter: number;
}

interface Spot {
  x: number;
  y: number;
  r: number;
}

/** Distance from a middle; as exact as needed, and many times faster than Math.hypot. */
const far = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** Two circles touch within so much of their size: what lies between is rounding. */
const TOUCH = 1e-9;

/** Places by a grid of squares, so that what is near is found without asking all. */
class Grid {
  private readonly cells = new Map<number, number[]>();
  constructor(
    private readonly spots: readonly Spot[],
    private readonly size: number,
  ) {}
  /** Cells to either side: a bundle is a few dozen circles wide, and small numbers are found faster. */
  private static readonly WIDE = 1 << 10;
  private cellOf(column: number, row: number): number {
    return (column + Grid.WIDE) * 2 * Grid.WIDE + row + Grid.WIDE;
  }
  add(index: number): void {
    const { x, y } = this.spots[index]!;
    const cell = this.cellOf(Math.floor(x / this.size), Math.floor(y / this.size));
    const at = this.cells.get(cell);
    if (at) at.push(index);
    else this.cells.set(cell, [index]);
  }
  /** Calls for each circle whose middle may lie within `reach` of a place, until one says it is enough. */
  near(x: number, y: number, reach: number, take: (index: number) => boolean): boolean {
    const span = Math.ceil(reach / this.size);
    const [column, row] = [Math.floor(x / this.size), Math.floor(y / this.size)];
    for (let dx = -span; dx <= span; dx += 1)
      for (let dy = -span; dy <= span; dy += 1)
        for (const index of this.cells.get(this.cellOf(column + dx, row + dy)) ?? []) if (take(index)) return true;
    return false;
  }
}

/** Both middles of a circle of radius r that touches two others; none where they lie too far apart. */
function touching(one: Spot, other: Spot, r: number): readonly (readonly [x: number, y: number])[] {
  const [a, b] = [one.r + r, other.r + r];
  const [dx, dy] = [other.x - one.x, other.y - one.y];
  const apart = far(dx, dy);
  if (apart === 0 || apart > a + b) return [];
  const along = (apart * apart + a * a - b * b) / (2 * apart);
  const aside = Math.sqrt(Math.max(0, a * a - along * along));
  const [ux, uy] = [dx / apart, dy / apart];
  return [
    [one.x + along * ux - aside * uy, one.y + along * uy + aside * ux],
    [one.x + along * ux + aside * uy, one.y + along * uy - aside * ux],
  ];
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly far: number;
}

/** Places that may still be free, the nearest to the middle first: a binary heap. */
class Places {
  private readonly heap: Place[] = [];

  add(place: Place): void {
    const { heap } = this;
    let at = heap.length;
    heap.push(place);
    while (at > 0) {
      const up = (at - 1) >> 1;
      if (!isNearer(place, heap[up]!)) break;
      heap[at] = heap[up]!;
      at = up;
    }
    heap[at] = place;
  }

  take(): Place | undefined {
    const { heap } = this;
    const [least] = heap;
    const last = heap.pop();
    if (last === undefined || heap.length === 0) return least;
    let at = 0;
    for (;;) {
      let down = 2 * at + 1;
      if (down >= heap.length) break;
      if (down + 1 < heap.length && isNearer(heap[down + 1]!, heap[down]!)) down += 1;
      if (!isNearer(heap[down]!, last)) break;
      heap[at] = heap[down]!;
      at = down;
    }
    heap[at] = last;
    return least;
  }
}
/** Of places as near as each other, the one that is first by its angle, so that the lay is the same every time. */
const isNearer = (one: Place, other: Place): boolean =>
  Math.abs(one.far - other.far) <= TOUCH
    ? Math.atan2(one.y, one.x) < Math.atan2(other.y, other.x)
    : one.far < other.far;

/**
 * Lays circles round a middle one, the thickest first, each where it touches two others and comes to lie nearest to the middle:
 * of equal ones that is the lay 1-6-12-18. O(n log n) for sizes of a few kinds.
 */
function laidRound(radii: readonly number[]): Spot[] {
  const spots: Spot[] = [];
  if (radii.length === 0) return spots;
  const most = radii[0]!;
  const grid = new Grid(spots, 2 * most);
  const put = (x: number, y: number, r: number) => {
    spots.push({ x, y, r });
    grid.add(spots.length - 1);
  };
  const isFree = ({ x, y }: Place, r: number) =>
    !grid.near(x, y, r + most, (index) => {
      const other = spots[index]!;
      return far(other.x - x, other.y - y) < (other.r + r) * (1 - TOUCH);
    });
  put(0, 0, most);
  if (radii.length > 1) put(most + radii[1]!, 0, radii[1]!);
  for (let next = 2; next < radii.length;) {
    const r = radii[next]!;
    const places = new Places();
    const offer = (index: number) => {
      const one = spots[index]!;
      grid.near(one.x, one.y, one.r + 2 * r + most, (beside) => {
        if (beside !== index)
          for (const [x, y] of touching(one, spots[beside]!, r)) {
            const place = { x, y, far: far(x, y) };
            if (isFree(place, r)) places.add(place);
          }
        return false;
      });
    };
    spots.forEach((_, index) => offer(index));
    // All of one size are laid from one heap of places, which grows with each.
    while (next < radii.length && radii[next] === r) {
      let place = places.take()!;
      while (!isFree(place, r)) place = places.take()!;
      put(place.x, place.y, r);
      offer(spots.length - 1);
      next += 1;
    }
  }
  return spots;
}

/** Steps towards the farthest circle, each shorter: the middle of the circle about them within a ten-thousandth. */
const MIDDLE_STEPS = 400;

/** Moves circles so that the circle about them all stands round nothing else, and returns its radius. */
function centred(spots: Spot[]): number {
  let [x, y] = [0, 0];
  const reachOf = (spot: Spot) => far(spot.x - x, spot.y - y) + spot.r;
  let [bestX, bestY, best] = [0, 0, Infinity];
  for (let step = 1; step <= MIDDLE_STEPS; step += 1) {
    let farthest = spots[0]!;
    let reach = 0;
    for (const spot of spots) {
      const own = reachOf(spot);
      if (own > reach) [farthest, reach] = [spot, own];
    }
    if (reach < best) [bestX, bestY, best] = [x, y, reach];
    x += (farthest.x - x) / (step + 1);
    y += (farthest.y - y) / (step + 1);
  }
  for (const spot of spots) {
    spot.x -= bestX;
    spot.y -= bestY;
  }
  return spots.reduce((most, spot) => Math.max(most, far(spot.x, spot.y) + spot.r), 0);
}

/** Every pair whose circles come within a margin of each other, each once. */
function pairsWithin(spots: readonly Spot[], margin: number): readonly Pair[] {
  const most = spots.reduce((all, { r }) => Math.max(all, r), 0);
  const grid = new Grid(spots, 2 * most);
  spots.forEach((_, index) => grid.add(index));
  const pairs: Pair[] = [];
  spots.forEach((one, index) => {
    grid.near(one.x, one.y, one.r + most + margin, (beside) => {
      const other = spots[beside]!;
      if (beside > index && far(other.x - one.x, other.y - one.y) < one.r + other.r + margin) pairs.push([one, other]);
      return false;
    });
  });
  return pairs;
}

type Pair = readonly [one: Spot, other: Spot];
const allPairs = (spots: readonly Spot[]): readonly Pair[] =>
  spots.flatMap((one, index) => spots.slice(index + 1).map((other): Pair => [one, other]));

/** Rounds of pushing apart at one width, what share of the radius may be left to push, and when pairs are looked up again. */
const ROUNDS = 240;
const LEFT = 1e-4;
const LOOK_AGAIN = 12;
/** It goes on while a look finds a tenth less to push than the one before. */
const GAINS = 0.9;

/**
 * Pushes circles apart and into a circle of a given radius, half of each overlap at a time.
 *
 * @returns Whether they have come to lie in it.
 */
function pressed(spots: Spot[], radius: number): boolean {
  const most = spots.reduce((all, { r }) => Math.max(all, r), 0);
  const few = spots.length <= PRESSED;
  let pairs = few ? allPairs(spots) : [];
  let before = Infinity;
  for (let round = 0; round < ROUNDS; round += 1) {
    if (!few && round % LOOK_AGAIN === 0) pairs = pairsWithin(spots, most / 2);
    let worst = 0;
    for (const [one, other] of pairs) {
      const [dx, dy] = [other.x - one.x, other.y - one.y];
      const square = dx * dx + dy * dy;
      const reach = one.r + other.r;
      if (square >= reach * reach) continue;
      const apart = Math.sqrt(square);
      const over = reach - apart;
      if (over > worst) worst = over;
      // Two in one place are pushed apart sideways.
      const [px, py] = apart > 0 ? [(dx / apart) * (over / 2), (dy / apart) * (over / 2)] : [over / 2, 0];
      one.x -= px;
      one.y -= py;
      other.x += px;
      other.y += py;
    }
    for (const one of spots) {
      const out = far(one.x, one.y);
      const over = out + one.r - radius;
      if (over <= 0) continue;
      if (over > worst) worst = over;
      one.x -= (one.x / out) * over;
      one.y -= (one.y / out) * over;
    }
    if (worst <= LEFT * radius) return true;
    if (round % LOOK_AGAIN === LOOK_AGAIN - 1) {
      if (worst > before * GAINS) return false;
      before = worst;
    }
  }
  return false;
}

/** Spreads circles until none overlaps: what pressing has left of it, a ten-thousandth. */
function spreadOut(spots: Spot[]): void {
  let scale = 1;
  for (const [one, other] of pairsWithin(spots, 0)) {
    const apart = far(other.x - one.x, other.y - one.y);
    if (apart > 0) scale = Math.max(scale, (one.r + other.r) / apart);
  }
  for (const spot of spots) {
    spot.x *= scale;
    spot.y *= scale;
  }
}

/** A bundle is pressed by so much at a time, and given up below a thousandth. */
const FIRST_PRESS = 0.03;
const LAST_PRESS = 0.001;

/** A copy, drawn together; written out, so that all circles are of one shape to the engine. */
const scaled = (spots: readonly Spot[], by: number): Spot[] =>
  spots.map(({ x, y, r }) => ({ x: x * by, y: y * by, r }));

/** Presses a bundle as far as it goes. */
function compacted(start: readonly Spot[]): { spots: Spot[]; radius: number } {
  let spots = scaled(start, 1);
  let radius = centred(spots);
  for (let press = FIRST_PRESS; press >= LAST_PRESS;) {
    const tried = scaled(spots, 1 - press);
    if (pressed(tried, radius * (1 - press))) {
      spreadOut(tried);
      const reached = centred(tried);
      if (reached < radius) {
        [spots, radius] = [tried, reached];
        continue;
      }
    }
    press /= 2;
  }
  return { spots, radius };
}

/** Few circles lie best in ways no lay finds: up to so many, so many other starts are pressed too. */
const FEW = 12;
const OTHER_STARTS = 4;
/** More than these are left as they are laid: pressing them gains two hundredths at most, and hands press no harder. */
const PRESSED = 20;

/** Each turns by so much from the one before, as seeds in a sunflower lie (Vogel 1979). */
const GOLDEN_TURN = Math.PI * (3 - Math.sqrt(5));
/** A start is so much wider than the circles are together. */
const LOOSE = 1.4;

/** Another start of few circles: spread over a disc, the turn of it told by a number. */
function spread(radii: readonly number[], turn: number): Spot[] {
  const wide = Math.sqrt(radii.reduce((sum, r) => sum + r * r, 0)) * LOOSE;
  const spots = radii.map((r, at) => {
    // Each start begins with another of them in the middle.
    const place = (at * turn) % radii.length;
    const out = Math.sqrt((place + 1 / 2) / radii.length) * wide;
    return { x: Math.cos(at * GOLDEN_TURN * turn) * out, y: Math.sin(at * GOLDEN_TURN * turn) * out, r };
  });
  pressed(spots, wide);
  spreadOut(spots);
  return spots;
}

/** From so many on up to so many two rings lie closer than one in the middle with rings about it (R. L. Graham and others 1998). */
const FIRST_RINGED = 13;
const LAST_RINGED = 28;
/** What of them lies in the inner ring at the least and at the most; what is more lies within it. */
const LEAST_INNER = 3;
const MOST_INNER = 9;
/** Circles of the outer ring of 13 to 18. */
const OUTER = 10;

/** Another start: a ring within a ring, and within that what is left; `more` of them in the outer ring. */
function ringed(radii: readonly number[], more: number): Spot[] {
  const count = radii.length;
  const outer = more + (count <= 18 ? OUTER + (count > 15 ? 1 : 0) : Math.round(OUTER + (count - 15) * 0.55));
  const inner = Math.min(MOST_INNER, Math.max(LEAST_INNER, count - outer));
  const middle = Math.max(0, count - outer - inner);
  const size = Math.sqrt(radii.reduce((sum, r) => sum + r * r, 0) / count);
  const reach = (ring: number) => (ring <= 1 ? 0 : (size / Math.sin(Math.PI / ring)) * 1.02);
  const rings = [
    { from: 0, count: middle, reach: reach(middle) },
    { from: middle, count: inner, reach: Math.max(reach(inner), reach(middle) + (middle > 0 ? 2 * size : 0)) },
    { from: middle + inner, count: count - middle - inner, reach: 0 },
  ];
  rings[2]!.reach = Math.max(reach(rings[2]!.count), rings[1]!.reach + 1.8 * size);
  const spots = radii.map((r, at): Spot => {
    const ring = rings.find(({ from, count: of }) => at < from + of)!;
    // The rings lie on gap, not on each other.
    const angle = (2 * Math.PI * (at - ring.from + (ring === rings[1] ? 1 / 2 : 0))) / ring.count;
    return { x: Math.cos(angle) * ring.reach, y: Math.sin(angle) * ring.reach, r };
  });
  spreadOut(spots);
  return spots;
}

function packed(diameters: readonly number[]): Packing {
  const order = diameters.map((diameter, at) => ({ r: diameter / 2, at })).sort((a, b) => b.r - a.r || a.at - b.at);
  const radii = order.map(({ r }) => r);
  const laid = laidRound(radii);
  let best = radii.length > PRESSED ? { spots: laid, radius: centred(laid) } : compacted(laid);
  if (radii.length > 2 && radii.length <= FEW)
    for (let turn = 1; turn <= OTHER_STARTS; turn += 1) {
      const other = compacted(spread(radii, turn));
      if (other.radius < best.radius) best = other;
    }
  if (radii.length >= FIRST_RINGED && radii.length <= LAST_RINGED)
    for (const more of [0, 1]) {
      const other = compacted(ringed(radii, more));
      if (other.radius < best.radius) best = other;
    }
  const circles: Laid[] = [];
  order.forEach(({ at }, index) => (circles[at] = best.spots[index]!));
  return { circles, diameter: 2 * best.radius };
}

/** Bundles that were packed a moment ago: an edit elsewhere leaves them as they were. */
const MOST_KNOWN = 64;
const known = new Map<string, Packing>();

/**
 * Packs circles of any sizes into a small circle: laid round the thickest, each as near to the middle as it goes, and pressed
 * together where they are few. The same circles are packed the same way every time. Of equal wires the lay 1-6-12-18 comes out:
 * 7 take 3 diameters, 19 take 5.
 *
 * @param diameters Any unit; positive.
 */
export function packCircles(diameters: readonly number[]): Packing {
  if (diameters.length === 0) return { circles: [], diameter: 0 };
  const key = diameters.join();
  const found = known.get(key) ?? packed(diameters);
  known.delete(key);
  known.set(key, found);
  for (const old of [...known.keys()].slice(0, -MOST_KNOWN)) known.delete(old);
  return found;
}
