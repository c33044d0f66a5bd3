import { NodeIO } from '@gltf-transform/core';
import { writeGlb, writeGltf } from '../../src/formats/gltf.js';
import { PAPER_LOOK } from '../../src/drawing/look.js';
import { meshesOf, type Mesh } from '../../src/form/mesh.js';
import { mirror, setNow, type Figure, type RopeForm, type SetForm } from '../../src/index.js';
import { openKnot } from '../support/figures.js';

function setOf(figure: Figure): SetForm {
  const done = setNow(figure);
  if (!done.ok) throw new Error(done.reason);
  return done.value;
}
const overhand = openKnot('overhand.json').method.figure;
const form = setOf(overhand);
const meshes = meshesOf(overhand.ropes, form, PAPER_LOOK);

/** Six times the volume inside, from its triangles: positive where they go round as seen from outside. */
function volume({ positions, indices }: Mesh): number {
  const at = (i: number): number[] => Array.from(positions.subarray(3 * indices[i]!, 3 * indices[i]! + 3));
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [at(i), at(i + 1), at(i + 2)] as [number[], number[], number[]];
    sum +=
      a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
      a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
      a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
  }
  return sum / 6;
}

/** A rope straight along x, of so many diameters. */
const straight = (length: number): RopeForm => ({
  chains: [
    {
      rope: 'a',
      closed: false,
      radius: 0.5,
      x: Float64Array.from(Array.from({ length: 2 * length + 1 }, (_, i) => [i / 2, 0, 0]).flat()),
      at: Float64Array.from({ length: 2 * length + 1 }, (_, i) => i),
      outlets: [],
    },
  ],
  solids: [],
});

describe('The surfaces of a form', () => {
  it('hold as much as a cylinder where a rope is straight', () => {
    const [mesh] = meshesOf([{ id: 'a' }], straight(10), PAPER_LOOK);
    const round = Math.PI * 0.25 * 10;
    expect(volume(mesh!)).toBeLessThan(round);
    // Sixteen sides in place of a circle.
    expect(volume(mesh!)).toBeGreaterThan(0.97 * round);
  });
  it('are closed: each edge of a triangle is met once the other way, but where an end is cut off', () => {
    const [mesh] = meshes;
    const { positions, indices } = mesh!;
    const placed = (i: number): string =>
      Array.from(positions.subarray(3 * i, 3 * i + 3), (v) => v.toFixed(5)).join(' ');
    const edges = new Map<string, number>();
    for (let i = 0; i < indices.length; i += 3)
      for (const k of [0, 1, 2]) {
        const [a, b] = [placed(indices[i + k]!), placed(indices[i + ((k + 1) % 3)]!)];
        const key = a < b ? `${a}|${b}` : `${b}|${a}`;
        edges.set(key, (edges.get(key) ?? 0) + (a < b ? 1 : -1));
      }
    expect([...edges.values()].every((n) => n === 0)).toBeTrue();
    expect(volume(mesh!)).toBeGreaterThan(0);
  });
  it('hold as much for the mirror image', () => {
    const other = mirror(overhand);
    const mirrored = meshesOf(other.ropes, setOf(other), PAPER_LOOK);
    const [a, b] = [volume(meshes[0]!), volume(mirrored[0]!)];
    expect(b).toBeGreaterThan(0.9 * a);
    expect(b).toBeLessThan(1.1 * a);
  });
  it('have normals of length one that point outward', () => {
    for (const { normals } of meshes)
      for (let i = 0; i < normals.length; i += 3)
        expect(Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!)).toBeCloseTo(1, 4);
  });
  it('end in a band where the rope ends in a tail, and show the bands of the second rope', () => {
    const reef = openKnot('reef.json').method.figure;
    const two = meshesOf(reef.ropes, setOf(reef), PAPER_LOOK);
    /** How many vertices have just this colour. */
    const count = ({ colours }: Mesh, hex: string): number => {
      const [r, g, b] = [1, 3, 5].map((k) => Number.parseInt(hex.slice(k, k + 2), 16) / 255);
      return Array.from({ length: colours.length / 3 }, (_, i) => 3 * i).filter(
        (i) => Math.abs(colours[i]! - r!) + Math.abs(colours[i + 1]! - g!) + Math.abs(colours[i + 2]! - b!) < 1e-3,
      ).length;
    };
    two.forEach((mesh, k) => {
      const { body, tick } = PAPER_LOOK.ropes[k]!;
      expect(count(mesh, body)).toBeGreaterThan(100);
      expect(count(mesh, PAPER_LOOK.band)).toBeGreaterThan(20);
      if (tick !== 'none') expect(count(mesh, tick)).toBeGreaterThan(100);
    });
  });
  it('know their places on the trail, which go along it from end to end', () => {
    const [mesh] = meshes;
    const along = Array.from({ length: mesh!.at!.length }, (_, i) => mesh!.at![i]!);
    const rings = along.filter((_, i) => i % 16 === 0).slice(0, Math.floor(along.length / 16) - 3);
    expect(rings).toEqual([...rings].sort((a, b) => a - b));
    const { points } = overhand.ropes[0]!;
    expect(Math.max(...along)).toBeLessThanOrEqual(points.length - 1);
    expect(Math.max(...along)).toBeGreaterThan(points.length - 2);
    // A straight rope’s places lie where its beads do; at its ends the curve through them begins slowly.
    const [plain] = meshesOf([{ id: 'a' }], straight(10), PAPER_LOOK);
    for (let i = 0; i < plain!.at!.length; i += 1)
      expect(Math.abs(plain!.at![i]! - 2 * plain!.positions[3 * i]!)).toBeLessThan(0.15);
  });
  it('are dark where strands touch, and nowhere else', () => {
    const [alone] = meshesOf([{ id: 'a' }], straight(10), PAPER_LOOK);
    const light = ({ colours }: Mesh): number[] =>
      Array.from({ length: colours.length / 3 }, (_, i) => colours[3 * i]! + colours[3 * i + 1]! + colours[3 * i + 2]!);
    const body = Math.max(...light(alone!));
    expect(light(alone!).every((v) => Math.abs(v - body) < 1e-3)).toBeTrue();
    const knot = light(meshes[0]!);
    expect(knot.filter((v) => v < 0.6 * body).length).toBeGreaterThan(50);
    expect(knot.filter((v) => v > 0.99 * body).length).toBeGreaterThan(knot.length / 2);
  });
  it('are read back from glTF by its own reader, each strand a node by its name', async () => {
    const name = (): string => 'the rope';
    const io = new NodeIO();
    const binary = await io.readBinary(writeGlb('Overhand', meshes, name));
    const { json } = { json: JSON.parse(writeGltf('Overhand', meshes, name)) as { buffers: { uri: string }[] } };
    const text = await io.readJSON({ json: json as never, resources: {} });
    for (const document of [binary, text]) {
      const [node] = document.getRoot().listNodes();
      expect(node?.getName()).toBe('the rope');
      const [surface] = node!.getMesh()!.listPrimitives();
      expect(surface!.getIndices()!.getCount()).toBe(meshes[0]!.indices.length);
      expect(surface!.getAttribute('POSITION')!.getArray()).toEqual(meshes[0]!.positions);
    }
  });
});
