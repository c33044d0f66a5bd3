/**
 * The surfaces of a form as glTF 2.0: one node a strand, by its name, in rope diameters. After the specification of the Khronos Group:
 * `.glb` is a header of twelve bytes and two chunks, JSON and bytes; `.gltf` is the JSON with the bytes in it.
 */
import { asAdded, type Mesh } from '../form/mesh.js';

/** What glTF calls a component: 4 bytes of float, 1 or 4 bytes of whole number; and what a view of the bytes is for. */
const FLOAT = 5126;
const BYTE = 5121;
const INDEX = 5125;
const VERTICES = 34962;
const TRIANGLES = 34963;
const MAGIC = 0x46546c67;
const JSON_CHUNK = 0x4e4f534a;
const BYTES_CHUNK = 0x004e4942;

const bytesOf = (list: Float32Array | Uint32Array): Uint8Array =>
  new Uint8Array(list.buffer, list.byteOffset, list.byteLength);
const whole = (length: number): number => Math.ceil(length / 4) * 4;

/** Colours with a byte a component, and one to spare so that each begins at a whole word. */
const paintOf = (colours: Float32Array): Uint8Array => {
  const out = new Uint8Array((colours.length / 3) * 4).fill(255);
  colours.forEach((v, i) => (out[4 * Math.floor(i / 3) + (i % 3)] = Math.round(255 * asAdded(v))));
  return out;
};

function boundsOf(list: Float32Array): { readonly min: number[]; readonly max: number[] } {
  const min = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  list.forEach((v, i) => {
    min[i % 3] = Math.min(min[i % 3]!, v);
    max[i % 3] = Math.max(max[i % 3]!, v);
  });
  return { min, max };
}

interface Parts {
  readonly json: Readonly<Record<string, unknown>>;
  readonly bytes: Uint8Array;
}

function partsOf(name: string, meshes: readonly Mesh[], nameOf: (strand: string) => string): Parts {
  const pieces: Uint8Array[] = [];
  const views: object[] = [];
  const accessors: object[] = [];
  let length = 0;
  const put = (bytes: Uint8Array, target: number, accessor: object): number => {
    views.push({ buffer: 0, byteOffset: length, byteLength: bytes.length, target });
    pieces.push(bytes);
    length += whole(bytes.length);
    return accessors.push({ bufferView: views.length - 1, ...accessor }) - 1;
  };
  const surfaces = meshes.map((m) => {
    const count = m.positions.length / 3;
    const three = { componentType: FLOAT, count, type: 'VEC3' };
    return {
      name: nameOf(m.strand),
      primitives: [
        {
          attributes: {
            POSITION: put(bytesOf(m.positions), VERTICES, { ...three, ...boundsOf(m.positions) }),
            NORMAL: put(bytesOf(m.normals), VERTICES, three),
            COLOR_0: put(paintOf(m.colours), VERTICES, { componentType: BYTE, normalized: true, count, type: 'VEC4' }),
          },
          indices: put(bytesOf(m.indices), TRIANGLES, {
            componentType: INDEX,
            count: m.indices.length,
            type: 'SCALAR',
          }),
          material: 0,
        },
      ],
    };
  });
  const bytes = new Uint8Array(length);
  let from = 0;
  for (const piece of pieces) {
    bytes.set(piece, from);
    from += whole(piece.length);
  }
  return {
    bytes,
    json: {
      asset: { version: '2.0', generator: 'Fox Trail' },
      scene: 0,
      scenes: [{ name, nodes: meshes.map((_, i) => i) }],
      nodes: surfaces.map((s, mesh) => ({ name: s.name, mesh })),
      meshes: surfaces,
      materials: [{ name: 'rope', pbrMetallicRoughness: { metallicFactor: 0, roughnessFactor: 0.9 } }],
      accessors,
      bufferViews: views,
    },
  };
}

/** As one binary file (`.glb`). */
export function writeGlb(name: string, meshes: readonly Mesh[], nameOf: (strand: string) => string): Uint8Array {
  const { json, bytes } = partsOf(name, meshes, nameOf);
  const text = new TextEncoder().encode(JSON.stringify({ ...json, buffers: [{ byteLength: bytes.length }] }));
  const told = whole(text.length);
  const out = new Uint8Array(12 + 8 + told + 8 + bytes.length);
  const words = new DataView(out.buffer);
  [MAGIC, 2, out.length, told, JSON_CHUNK].forEach((v, i) => words.setUint32(4 * i, v, true));
  // JSON is filled up with blanks.
  out.fill(0x20, 20, 20 + told);
  out.set(text, 20);
  [bytes.length, BYTES_CHUNK].forEach((v, i) => words.setUint32(20 + told + 4 * i, v, true));
  out.set(bytes, 28 + told);
  return out;
}

/** As one text file (`.gltf`), its bytes within it. */
export function writeGltf(name: string, meshes: readonly Mesh[], nameOf: (strand: string) => string): string {
  const { json, bytes } = partsOf(name, meshes, nameOf);
  const text = Array.from(bytes, (b) => String.fromCharCode(b)).join('');
  const uri = `data:application/octet-stream;base64,${btoa(text)}`;
  return JSON.stringify({ ...json, buffers: [{ byteLength: bytes.length, uri }] }, null, 1);
}
