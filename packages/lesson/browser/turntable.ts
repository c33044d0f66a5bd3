/**
 * A knot in space, to be turned by hand: seen as a draughtsman would draw it, in ink and flat tones. Drag it, or use arrow keys, to turn
 * it; pinch, wheel, plus and minus bring it nearer. Drawn only when something has changed.
 */
import { asAdded, type Mesh } from '@foxtrail/core/mesh';
import {
  BackSide,
  BufferAttribute,
  BufferGeometry,
  Color,
  DataTexture,
  DirectionalLight,
  Group,
  HemisphereLight,
  Mesh as Surface,
  MeshBasicMaterial,
  MeshToonMaterial,
  NearestFilter,
  OrthographicCamera,
  Raycaster,
  RedFormat,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';

/** How far it is turned from its front, in radians: about the board's upright axis, then toward the reader. */
export interface Turned {
  readonly yaw: number;
  readonly pitch: number;
}

export interface TurntableOptions {
  /** Colour of the line round ropes. */
  readonly ink: string;
  /** What is said of it to who cannot see it. */
  readonly label: string;
  /** Told when it is turned by hand. */
  readonly turned?: (to: Turned) => void;
  /** Told of the place of a rope that is pointed at; of nothing where it is none. */
  readonly pointed?: (place: Place | undefined) => void;
}

/** A place on a rope’s trail. */
export interface Place {
  readonly strand: string;
  readonly at: number;
}

/** A stretch of a rope’s trail. */
export interface Span {
  readonly strand: string;
  readonly from: number;
  readonly to: number;
}

export interface Turntable {
  /** Turns to a side; at once where less motion is asked for. */
  readonly lookFrom: (to: Turned) => void;
  /** So many times as near. */
  readonly nearer: (times: number) => void;
  /** Other surfaces in place of those shown; what is turned stays so. */
  readonly show: (meshes: readonly Mesh[], ink: string) => void;
  /** Where a place in space is seen on the element, in CSS pixels, and how many of them a diameter is. */
  readonly seenAt: (place: readonly [x: number, y: number, z: number]) => readonly [x: number, y: number];
  readonly scale: () => number;
  /** Lights stretches of ropes in a colour, those of before no longer. */
  readonly light: (spans: readonly Span[], colour: string) => void;
  readonly end: () => void;
}

/** How far a key turns it, and a pixel of dragging, in radians; how much nearer a key or one unit of a wheel brings it. */
const KEY_TURN = Math.PI / 12;
const DRAG_TURN = 0.009;
const KEY_ZOOM = 1.2;
const WHEEL = 0.0014;
const ZOOMS = { least: 0.6, most: 6 } as const;
/** Time of a turn to a station, in milliseconds. */
const TURN_TIME = 420;
/** The ink round a rope, in diameters of it. */
const OUTLINE = 0.055;
/** How far what is lit takes on its colour. */
const LIT = 0.75;
/** Room round the knot, against its own size. */
const ROOM = 0.98;
/** Frames that take longer than this, in milliseconds, are drawn of fewer dots while it moves; it is drawn in full once it rests so long. */
const SLOW = 45;
const COARSE = 0.55;
const REST = 140;
/** More dots a CSS pixel than this are not seen, and cost time where there is no graphics card. */
const DOTS = 2;
/** Three tones: in shade, lit, and where the light falls straight. */
const TONES = [196, 236, 255] as const;

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');

/** Puts a turntable into an element; nothing where this browser draws nothing in space. */
export function turntable(
  within: HTMLElement,
  meshes: readonly Mesh[],
  { ink, label, turned, pointed }: TurntableOptions,
): Turntable | undefined {
  const canvas = document.createElement('canvas');
  let renderer: WebGLRenderer;
  try {
    renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
  } catch {
    return undefined;
  }
  renderer.outputColorSpace = SRGBColorSpace;
  const dots = Math.min(DOTS, devicePixelRatio);
  canvas.className = 'turntable';
  canvas.tabIndex = 0;
  canvas.setAttribute('role', 'img');
  canvas.setAttribute('aria-label', `${label} Arrow keys turn it, plus and minus bring it nearer and farther.`);
  within.append(canvas);

  const scene = new Scene();
  const camera = new OrthographicCamera(-1, 1, 1, -1, -500, 500);
  // The light stays over the reader’s left shoulder.
  const sun = new DirectionalLight(0xffffff, 2.1);
  sun.position.set(-0.5, 0.8, 1);
  scene.add(new HemisphereLight(0xffffff, 0xd8d2c8, 1.5), sun);
  const steps = new DataTexture(new Uint8Array(TONES), TONES.length, 1, RedFormat);
  steps.minFilter = NearestFilter;
  steps.magFilter = NearestFilter;
  steps.needsUpdate = true;
  const body = new MeshToonMaterial({ vertexColors: true, gradientMap: steps });
  const edge = new MeshBasicMaterial({ side: BackSide });
  let lit: { readonly spans: readonly Span[]; readonly colour: string } = { spans: [], colour: ink };
  const surfaces: Surface[] = [];
  let shown: { readonly mesh: Mesh; readonly surface: Surface }[] = [];
  const knot = new Group();
  scene.add(knot);
  let reach = 1;
  let centre = new Vector3();

  const clear = (): void => {
    for (const surface of surfaces.splice(0)) surface.geometry.dispose();
    knot.clear();
    shown = [];
  };
  /** The colours of a mesh, what is lit on it mixed in. */
  const coloursOf = (m: Mesh): Float32Array => {
    const own = m.colours.map(asAdded);
    const spans = lit.spans.filter((s) => s.strand === m.strand);
    const { at } = m;
    if (!at || spans.length === 0) return own;
    const { r, g, b } = new Color(lit.colour);
    at.forEach((place, i) => {
      if (!spans.some((s) => place >= Math.min(s.from, s.to) && place <= Math.max(s.from, s.to))) return;
      [r, g, b].forEach((v, k) => (own[3 * i + k] = own[3 * i + k]! * (1 - LIT) + v * LIT));
    });
    return own;
  };
  const light: Turntable['light'] = (spans, colour) => {
    if (spans.length === 0 && lit.spans.length === 0) return;
    lit = { spans, colour };
    for (const { mesh, surface } of shown)
      surface.geometry.setAttribute('color', new BufferAttribute(coloursOf(mesh), 3));
    redraw();
  };
  const fill = (list: readonly Mesh[]): void => {
    clear();
    let [low, high] = [new Vector3(Infinity, Infinity, Infinity), new Vector3(-Infinity, -Infinity, -Infinity)];
    for (const m of list) {
      const shape = new BufferGeometry();
      shape.setAttribute('position', new BufferAttribute(m.positions, 3));
      shape.setAttribute('normal', new BufferAttribute(m.normals, 3));
      shape.setAttribute('color', new BufferAttribute(coloursOf(m), 3));
      shape.setIndex(new BufferAttribute(m.indices, 1));
      const round = shape.clone();
      const grown = m.positions.map((v, i) => v + m.normals[i]! * OUTLINE * 2 * m.radius);
      round.setAttribute('position', new BufferAttribute(grown, 3));
      const surface = new Surface(shape, body);
      surfaces.push(new Surface(round, edge), surface);
      shown.push({ mesh: m, surface });
      if (m.kind === 'rope') {
        shape.computeBoundingBox();
        low = low.min(shape.boundingBox!.min);
        high = high.max(shape.boundingBox!.max);
      }
    }
    centre = low.clone().add(high).multiplyScalar(0.5);
    for (const surface of surfaces) surface.position.copy(centre).negate();
    knot.add(...surfaces);
    reach = (ROOM * high.clone().sub(low).length()) / 2;
  };

  let at: Turned = { yaw: 0, pitch: 0 };
  let zoom = 1;
  let asked = 0;
  let rested = 0;
  let lastDrawn = 0;
  let slow = 0;
  const draw = (): void => {
    asked = 0;
    // Without a graphics card a full frame takes long: then it is drawn coarsely while it moves.
    const now = performance.now();
    const since = now - lastDrawn;
    lastDrawn = now;
    if (since < REST) slow = Math.max(0, Math.min(4, slow + (since > SLOW ? 1 : -0.2)));
    const coarse = slow >= 2 && since < REST;
    paint(coarse ? dots * COARSE : dots);
    clearTimeout(rested);
    if (coarse) rested = window.setTimeout(() => paint(dots), REST);
  };
  const paint = (ratio: number): void => {
    const [w, h] = [within.clientWidth, within.clientHeight];
    if (w === 0 || h === 0) return;
    renderer.setPixelRatio(ratio);
    renderer.setSize(w, h);
    const half = reach / zoom;
    const [x, y] = w > h ? [(half * w) / h, half] : [half, (half * h) / w];
    camera.left = -x;
    camera.right = x;
    camera.top = y;
    camera.bottom = -y;
    camera.updateProjectionMatrix();
    knot.rotation.set(at.pitch, -at.yaw, 0, 'XYZ');
    renderer.render(scene, camera);
  };
  const redraw = (): void => {
    if (asked === 0) asked = requestAnimationFrame(draw);
  };
  const show = (list: readonly Mesh[], colour: string): void => {
    edge.color = new Color(colour);
    fill(list);
    redraw();
  };

  const most = Math.PI / 2;
  const turn = (yaw: number, pitch: number): void => {
    cancelAnimationFrame(moving);
    at = { yaw: at.yaw + yaw, pitch: Math.max(-most, Math.min(most, at.pitch + pitch)) };
    turned?.(at);
    redraw();
  };
  const nearer = (times: number): void => {
    zoom = Math.max(ZOOMS.least, Math.min(ZOOMS.most, zoom * times));
    redraw();
  };
  let moving = 0;
  const lookFrom = (to: Turned): void => {
    cancelAnimationFrame(moving);
    const from = at;
    // The shorter way round.
    const full = 2 * Math.PI;
    const yaw = from.yaw + ((((to.yaw - from.yaw + Math.PI) % full) + full) % full) - Math.PI;
    if (LESS_MOTION.matches) {
      at = to;
      redraw();
      return;
    }
    const start = performance.now();
    const step = (now: number): void => {
      const t = Math.min(1, (now - start) / TURN_TIME);
      const eased = t * t * (3 - 2 * t);
      at = { yaw: from.yaw + (yaw - from.yaw) * eased, pitch: from.pitch + (to.pitch - from.pitch) * eased };
      if (t === 1) at = to;
      draw();
      if (t < 1) moving = requestAnimationFrame(step);
    };
    moving = requestAnimationFrame(step);
  };

  const scale = (): number => within.clientWidth / (camera.right - camera.left);
  const seenAt: Turntable['seenAt'] = ([x, y, z]) => {
    knot.updateMatrixWorld();
    // Meshes have y up; the knot turns about its own middle.
    const seen = new Vector3(x, -y, z).sub(centre).applyMatrix4(knot.matrixWorld);
    return [within.clientWidth / 2 + seen.x * scale(), within.clientHeight / 2 - seen.y * scale()];
  };

  const ray = new Raycaster();
  const ended = new AbortController();
  const { signal } = ended;
  const fingers = new Map<number, readonly [number, number]>();
  const apart = (): number => {
    const [a, b] = [...fingers.values()] as [readonly [number, number], readonly [number, number]];
    return Math.hypot(a[0] - b[0], a[1] - b[1]);
  };
  canvas.addEventListener(
    'pointerdown',
    (event) => {
      if (event.pointerType === 'mouse' && event.button !== 0) return;
      canvas.setPointerCapture(event.pointerId);
      fingers.set(event.pointerId, [event.clientX, event.clientY]);
    },
    { signal },
  );
  /** What the pointer is over, if it is a rope. */
  const under = ({ offsetX, offsetY }: PointerEvent): Place | undefined => {
    const [w, h] = [within.clientWidth, within.clientHeight];
    ray.setFromCamera(new Vector2((2 * offsetX) / w - 1, 1 - (2 * offsetY) / h), camera);
    knot.updateMatrixWorld();
    const [hit] = ray.intersectObjects(
      shown.map((s) => s.surface),
      false,
    );
    const mesh = shown.find((s) => s.surface === hit?.object)?.mesh;
    const at = mesh?.at?.[hit?.face?.a ?? 0];
    return mesh && at !== undefined ? { strand: mesh.strand, at } : undefined;
  };
  let over: Place | undefined;
  const point = (place: Place | undefined): void => {
    if (place?.strand === over?.strand && place?.at === over?.at) return;
    over = place;
    pointed?.(place);
  };
  canvas.addEventListener('pointerleave', () => point(undefined), { signal });
  canvas.addEventListener(
    'pointermove',
    (event) => {
      const was = fingers.get(event.pointerId);
      if (!was) {
        if (pointed) point(under(event));
        return;
      }
      const before = fingers.size === 2 ? apart() : 0;
      fingers.set(event.pointerId, [event.clientX, event.clientY]);
      if (fingers.size === 2) nearer(apart() / Math.max(1, before));
      else turn(-(event.clientX - was[0]) * DRAG_TURN, (event.clientY - was[1]) * DRAG_TURN);
    },
    { signal },
  );
  for (const up of ['pointerup', 'pointercancel'] as const)
    canvas.addEventListener(up, (event) => fingers.delete(event.pointerId), { signal });
  canvas.addEventListener(
    'wheel',
    (event) => {
      event.preventDefault();
      nearer(Math.exp(-event.deltaY * WHEEL));
    },
    { signal, passive: false },
  );
  canvas.addEventListener(
    'keydown',
    (event) => {
      const way = ARROWS[event.key];
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (way) turn(way[0] * KEY_TURN, way[1] * KEY_TURN);
      else if (event.key === '+' || event.key === '=') nearer(KEY_ZOOM);
      else if (event.key === '-') nearer(1 / KEY_ZOOM);
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
    { signal },
  );
  const observer = new ResizeObserver(redraw);
  observer.observe(within);
  show(meshes, ink);
  return {
    lookFrom,
    nearer,
    show,
    light,
    seenAt,
    scale,
    end: () => {
      ended.abort();
      observer.disconnect();
      cancelAnimationFrame(asked);
      clearTimeout(rested);
      cancelAnimationFrame(moving);
      clear();
      renderer.dispose();
      // A browser gives out few of them, and takes them back late by itself.
      renderer.forceContextLoss();
      canvas.remove();
    },
  };
}

const ARROWS: Readonly<Record<string, readonly [yaw: number, pitch: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
