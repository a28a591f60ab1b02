/**
 * The print in space. Every stroke is one ribbon that turns toward the eye and is shaded like the round bead
 * that it stands for: two triangles instead of dozens. Strokes stand in a texture from which the vertices fetch
 * them; as instances of one quad the same picture took twenty times as long where there is no graphics unit
 * (npm run bench, frame time).
 */

import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Bed } from '@/core/bench/machine';
import { bedBox, bedCentre } from '@/core/bench/bed';
import { coarser, movesUpTo, type Beads } from '@/core/view/beads';
import { scaleColour } from '@/core/view/scale';

const VERTEX = /* glsl */ `
precision highp float;
uniform mat4 modelViewMatrix, projectionMatrix;
uniform vec3 cameraPosition;
uniform float swell;
uniform highp sampler2D strokes, shares;
uniform int base;
out float across;
out float tone;
out vec3 side, face;
flat out int stroke;
const int WIDE = 2048;
const vec2 CORNERS[6] = vec2[6](
  vec2(-1.0, 0.0), vec2(1.0, 0.0), vec2(1.0, 1.0), vec2(-1.0, 0.0), vec2(1.0, 1.0), vec2(-1.0, 1.0));
void main() {
  stroke = base + gl_VertexID / 6;
  vec2 corner = CORNERS[gl_VertexID % 6];
  int texel = stroke * 2;
  vec4 one = texelFetch(strokes, ivec2(texel % WIDE, texel / WIDE), 0);
  vec4 two = texelFetch(strokes, ivec2(texel % WIDE + 1, texel / WIDE), 0);
  vec3 from = one.xyz;
  vec3 to = vec3(one.w, two.xy);
  vec2 size = two.zw;
  vec3 along = to - from;
  float span = length(along);
  along = span > 1e-6 ? along / span : vec3(1.0, 0.0, 0.0);
  vec3 middle = mix(from, to, corner.y);
  vec3 eye = normalize(cameraPosition - middle);
  vec3 out_ = cross(along, eye);
  out_ = dot(out_, out_) > 1e-8 ? normalize(out_) : vec3(0.0, 0.0, 1.0);
  // Half width of the bead's section as it is seen from here: an ellipse, wide as the bead, tall as the layer.
  vec2 half_ = vec2(length(out_.xy) * size.x, out_.z * size.y) * 0.5 * swell;
  float reach = length(half_);
  vec3 place = middle + out_ * reach * corner.x + along * (corner.y * 2.0 - 1.0) * size.x * 0.3;
  across = corner.x;
  tone = texelFetch(shares, ivec2(stroke % WIDE, stroke / WIDE), 0).r;
  side = out_;
  face = eye;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(place, 1.0);
}`;

const FRAGMENT = /* glsl */ `
precision highp float;
uniform vec3 tones[6];
uniform vec3 plain;
uniform float marked;
in float across;
in float tone;
in vec3 side, face;
out vec4 colour;
void main() {
  vec3 normal = side * across + face * sqrt(max(0.0, 1.0 - across * across));
  float light = 0.45 + 0.4 * max(0.0, dot(normal, vec3(-0.36, -0.56, 0.75))) + 0.2 * abs(normal.z);
  float at = clamp(tone, 0.0, 1.0) * 5.0;
  int low = min(4, int(at));
  vec3 ink = tone < 0.0 ? plain : mix(tones[low], tones[low + 1], at - float(low));
  colour = vec4(mix(ink * light, plain, marked), 1.0);
}`;

const PICK = /* glsl */ `
precision highp float;
precision highp int;
flat in int stroke;
out vec4 colour;
void main() {
  int id = stroke + 1;
  colour = vec4(float(id & 255), float((id >> 8) & 255), float((id >> 16) & 255), 255.0) / 255.0;
}`;

/** Colour of plastic of which the file says nothing, and of what is marked. */
const WOOD = new THREE.Vector3(0.72, 0.65, 0.5);
const PLUM = new THREE.Vector3(0.69, 0.2, 0.56);
const EMPTY = new THREE.BufferGeometry();
/** Pixels around the pointer in which a stroke is looked for. */
const PICK_AREA = 5;

const tones = Array.from({ length: 6 }, (_, i) => {
  const [r, g, b] = scaleColour(i / 5);
  return new THREE.Vector3(r / 255, g / 255, b / 255);
});

function material(
  fragmentShader: string,
  plain: THREE.Vector3,
  extra = {},
): THREE.RawShaderMaterial {
  return new THREE.RawShaderMaterial({
    glslVersion: THREE.GLSL3,
    vertexShader: VERTEX,
    fragmentShader,
    side: THREE.DoubleSide,
    uniforms: {
      tones: { value: tones },
      plain: { value: plain },
      marked: { value: 0 },
      swell: { value: 1 },
      strokes: { value: null },
      shares: { value: null },
      base: { value: 0 },
    },
    ...extra,
  });
}

/** Texels in a row of the textures that hold strokes; the shader knows the same number. */
const WIDE = 2048;
const VERTICES = 6;

/** Numbers as a texture, `channels` of them a texel. */
function table(numbers: Float32Array, channels: 1 | 4): THREE.DataTexture {
  const rows = Math.max(1, Math.ceil(numbers.length / channels / WIDE));
  const data = new Float32Array(rows * WIDE * channels);
  data.set(numbers);
  const format = channels === 4 ? THREE.RGBAFormat : THREE.RedFormat;
  const texture = new THREE.DataTexture(data, WIDE, rows, format, THREE.FloatType);
  texture.needsUpdate = true;
  return texture;
}

/** Strokes as the shader reads them. */
class StrokeSet {
  readonly strokes: THREE.DataTexture;
  readonly shares: THREE.DataTexture;

  constructor(
    { strokes, share }: Pick<Beads, 'strokes' | 'share'>,
    readonly moves: Uint32Array,
  ) {
    this.strokes = table(strokes, 4);
    this.shares = table(share, 1);
  }

  dispose(): void {
    this.strokes.dispose();
    this.shares.dispose();
  }
}

/** A picture that takes longer than this, ms, is drawn coarsely while the view turns. */
const SLOW_FRAME_MS = 45;
/** The view must rest this long, ms, before everything is drawn again. */
const REST_MS = 220;

export class Scene {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.PerspectiveCamera(35, 1, 1, 4000);
  private readonly controls: OrbitControls;
  private readonly paint = material(FRAGMENT, WOOD);
  private readonly finder = material(PICK, WOOD);
  private readonly marker = material(FRAGMENT, PLUM, { depthTest: false, transparent: true });
  private readonly strokes = new THREE.Mesh<THREE.BufferGeometry, THREE.Material>(
    new THREE.BufferGeometry(),
    this.paint,
  );
  private readonly mark = new THREE.Mesh(new THREE.BufferGeometry(), this.marker);
  private full: StrokeSet | null = null;
  private coarse: StrokeSet | null = null;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private last: number | null = null;
  private marked = false;
  private readonly ink = new THREE.LineBasicMaterial({ transparent: true, opacity: 0.35 });
  private readonly travels = new THREE.LineSegments(EMPTY, this.ink);
  private readonly drawnBack = new THREE.Points(
    EMPTY,
    new THREE.PointsMaterial({ color: '#b0348f', size: 4, sizeAttenuation: false }),
  );
  private readonly ground = new THREE.LineSegments(EMPTY, this.ink);
  private readonly target = new THREE.WebGLRenderTarget(PICK_AREA, PICK_AREA);
  private readonly watcher: ResizeObserver;
  private beads: Beads | null = null;
  private asked = 0;

  /** @throws Error where there is no WebGL 2 */
  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: !drawsInSoftware(), alpha: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.turned());
    this.marker.uniforms.marked!.value = 1;
    this.marker.uniforms.swell!.value = 1.5;
    this.mark.renderOrder = 2;
    this.mark.visible = false;
    this.mark.geometry.setDrawRange(0, VERTICES);
    this.strokes.geometry.setDrawRange(0, 0);
    for (const part of [this.ground, this.strokes, this.travels, this.drawnBack, this.mark]) {
      part.frustumCulled = false;
      this.scene.add(part);
    }
    this.watcher = new ResizeObserver(() => this.resize());
    this.watcher.observe(canvas);
    this.resize();
  }

  private resize(): void {
    const { clientWidth, clientHeight } = this.canvas;
    if (clientWidth === 0 || clientHeight === 0) return;
    this.renderer.setSize(clientWidth, clientHeight, false);
    this.camera.aspect = clientWidth / clientHeight;
    this.camera.updateProjectionMatrix();
    this.ask();
  }

  /** Draws once before the next picture of the screen, however often it is asked. */
  private ask(): void {
    if (this.asked) return;
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      this.draw();
    });
  }

  private draw(): void {
    this.ink.color.set(getComputedStyle(this.canvas).color);
    this.renderer.render(this.scene, this.camera);
  }

  /** Draws what stands now, coarse or whole, and waits until every pixel stands. @returns ms */
  timedFrame(): number {
    const start = performance.now();
    this.draw();
    const gl = this.renderer.getContext();
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    return performance.now() - start;
  }

  setBed(bed: Bed): void {
    const { minX, minY, maxX, maxY } = bedBox(bed);
    const points: number[] = [];
    const line = (x0: number, y0: number, x1: number, y1: number) =>
      points.push(x0, y0, 0, x1, y1, 0);
    if (bed.shape === 'round') {
      const { x, y } = bedCentre(bed);
      const r = bed.diameter / 2;
      for (let i = 0; i < 96; i++) {
        const [a, b] = [(i / 96) * 2 * Math.PI, ((i + 1) / 96) * 2 * Math.PI];
        line(x + r * Math.cos(a), y + r * Math.sin(a), x + r * Math.cos(b), y + r * Math.sin(b));
      }
    } else {
      line(minX, minY, maxX, minY);
      line(maxX, minY, maxX, maxY);
      line(maxX, maxY, minX, maxY);
      line(minX, maxY, minX, minY);
    }
    // The front edge once more, doubled: which side one looks from is never in doubt.
    line(minX + 10, minY - 3, maxX - 10, minY - 3);
    this.ground.geometry.dispose();
    this.ground.geometry = points3(Float32Array.from(points));
    this.ask();
  }

  setBeads(beads: Beads): void {
    this.beads = beads;
    for (const part of [this.travels, this.drawnBack]) part.geometry.dispose();
    this.full?.dispose();
    this.coarse?.dispose();
    this.coarse = null;
    this.full = new StrokeSet(beads, beads.move);
    this.use(this.full);
    this.travels.geometry = points3(beads.travels);
    this.drawnBack.geometry = points3(beads.retractions);
    const every = Math.min(16, Math.ceil(this.timedFrame() / SLOW_FRAME_MS));
    if (every > 1) {
      const some = coarser(beads, every);
      this.coarse = new StrokeSet(some, some.move);
    }
    this.ask();
  }

  private use(set: StrokeSet): void {
    for (const { uniforms } of [this.paint, this.finder, this.marker]) {
      uniforms.strokes!.value = set.strokes;
      uniforms.shares!.value = set.shares;
    }
    const shown = this.last === null ? set.moves.length : movesUpTo(set.moves, this.last);
    this.strokes.geometry.setDrawRange(0, VERTICES * shown);
    this.mark.visible = this.marked && set === this.full;
  }

  /** While the view turns, a coarse picture keeps up with the hand; at rest everything is drawn. */
  private turned(): void {
    const { coarse } = this;
    if (coarse) {
      this.use(coarse);
      clearTimeout(this.rest);
      this.rest = setTimeout(() => {
        if (this.full) this.use(this.full);
        this.ask();
      }, REST_MS);
    }
    this.ask();
  }

  /** Shows strokes up to a move only; null shows all. */
  upTo(move: number | null): void {
    const { beads, full } = this;
    if (!beads || !full) return;
    this.last = move;
    this.use(full);
    const travels = move === null ? beads.travelMove.length : movesUpTo(beads.travelMove, move);
    this.travels.geometry.setDrawRange(0, 2 * travels);
    this.ask();
  }

  showTravels(shown: boolean): void {
    this.travels.visible = this.drawnBack.visible = shown;
    this.ask();
  }

  /** Marks a move that is among the strokes shown; anything else takes the mark away. */
  markMove(move: number | null): void {
    const { beads } = this;
    const at = beads && move !== null ? movesUpTo(beads.move, move) - 1 : -1;
    this.marked = at >= 0 && beads!.move[at] === move;
    this.mark.visible = this.marked;
    this.marker.uniforms.base!.value = Math.max(0, at);
    this.ask();
  }

  /** Looks at a box from the front and a little above. mm */
  frame(low: [number, number, number], high: [number, number, number]): void {
    const middle = new THREE.Vector3(
      (low[0] + high[0]) / 2,
      (low[1] + high[1]) / 2,
      (low[2] + high[2]) / 2,
    );
    const size = Math.max(high[0] - low[0], high[1] - low[1], high[2] - low[2], 10);
    const narrow = Math.min(1, this.camera.aspect);
    this.controls.target.copy(middle);
    this.camera.position
      .copy(middle)
      .add(new THREE.Vector3(-0.35, -1.9, 0.75).multiplyScalar((size * 1.05) / narrow));
    this.controls.update();
    this.ask();
  }

  /** Turns the view by angles, rad, and comes nearer by a factor; for keys. */
  turn(around: number, up: number, nearer = 1): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    const at = new THREE.Spherical().setFromVector3(
      new THREE.Vector3(offset.x, offset.z, -offset.y),
    );
    at.theta += around;
    at.phi = Math.min(Math.PI - 0.05, Math.max(0.05, at.phi - up));
    at.radius /= nearer;
    const turned = new THREE.Vector3().setFromSpherical(at);
    this.camera.position
      .copy(this.controls.target)
      .add(new THREE.Vector3(turned.x, -turned.z, turned.y));
    this.controls.update();
    this.ask();
  }

  /** The move whose stroke lies nearest to a pixel of the canvas, or null. */
  pick(x: number, y: number): number | null {
    const { beads, camera, renderer, canvas } = this;
    if (!beads || !this.full || beads.count === 0) return null;
    this.use(this.full);
    const reach = (PICK_AREA - 1) / 2;
    camera.setViewOffset(
      canvas.clientWidth,
      canvas.clientHeight,
      x - reach,
      y - reach,
      PICK_AREA,
      PICK_AREA,
    );
    const hidden = [this.ground, this.travels, this.drawnBack, this.mark].filter(
      (one) => one.visible,
    );
    for (const one of hidden) one.visible = false;
    this.strokes.material = this.finder;
    renderer.setRenderTarget(this.target);
    renderer.clear();
    renderer.render(this.scene, camera);
    const pixels = new Uint8Array(PICK_AREA * PICK_AREA * 4);
    renderer.readRenderTargetPixels(this.target, 0, 0, PICK_AREA, PICK_AREA, pixels);
    renderer.setRenderTarget(null);
    this.strokes.material = this.paint;
    for (const one of hidden) one.visible = true;
    camera.clearViewOffset();
    let best: { id: number; far: number } | null = null;
    for (let i = 0; i < PICK_AREA * PICK_AREA; i++) {
      const id = pixels[i * 4]! | (pixels[i * 4 + 1]! << 8) | (pixels[i * 4 + 2]! << 16);
      if (id === 0 || pixels[i * 4 + 3] === 0) continue;
      const far = Math.abs((i % PICK_AREA) - reach) + Math.abs(Math.floor(i / PICK_AREA) - reach);
      if (!best || far < best.far) best = { id, far };
    }
    return best ? (beads.move[best.id - 1] ?? null) : null;
  }

  dispose(): void {
    cancelAnimationFrame(this.asked);
    this.watcher.disconnect();
    this.controls.dispose();
    for (const part of [this.strokes, this.travels, this.drawnBack, this.mark, this.ground])
      part.geometry.dispose();
    clearTimeout(this.rest);
    this.full?.dispose();
    this.coarse?.dispose();
    this.target.dispose();
    this.renderer.dispose();
  }
}

/** Whether pictures are drawn by the processor: smoothing edges would cost half of its time. */
function drawsInSoftware(): boolean {
  const gl = document.createElement('canvas').getContext('webgl2');
  const info = gl?.getExtension('WEBGL_debug_renderer_info');
  const name = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  gl?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software/i.test(name);
}

function points3(numbers: Float32Array): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(numbers, 3));
  return geometry;
}
