/** The surfaces of a form as glTF 2.0, written by a kept library: one node a strand, by its name, in rope diameters. */
import { Document, WebIO } from '@gltf-transform/core';
import type { Mesh } from '../form/mesh.js';

const round = (v: number): number => Math.round(v * 255);
/** glTF keeps colours as they add up, screens as they look. */
const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

function documentOf(name: string, meshes: readonly Mesh[], nameOf: (strand: string) => string): Document {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Fox Trail';
  const buffer = document.createBuffer();
  const scene = document.createScene(name);
  const material = document.createMaterial('rope').setRoughnessFactor(0.9).setMetallicFactor(0);
  for (const mesh of meshes) {
    const list = (array: Float32Array, normalized = false) =>
      document
        .createAccessor()
        .setType('VEC3')
        .setArray(normalized ? Uint8Array.from(array, (v) => round(linear(v))) : array)
        .setNormalized(normalized)
        .setBuffer(buffer);
    const surface = document
      .createPrimitive()
      .setMaterial(material)
      .setIndices(document.createAccessor().setType('SCALAR').setArray(mesh.indices).setBuffer(buffer))
      .setAttribute('POSITION', list(mesh.positions))
      .setAttribute('NORMAL', list(mesh.normals))
      .setAttribute('COLOR_0', list(mesh.colours, true));
    const named = nameOf(mesh.strand);
    scene.addChild(document.createNode(named).setMesh(document.createMesh(named).addPrimitive(surface)));
  }
  return document;
}

/** As one binary file (`.glb`). */
export const writeGlb = (
  name: string,
  meshes: readonly Mesh[],
  nameOf: (strand: string) => string,
): Promise<Uint8Array> => new WebIO().writeBinary(documentOf(name, meshes, nameOf));

/** As one text file (`.gltf`), its buffer within it. */
export async function writeGltf(
  name: string,
  meshes: readonly Mesh[],
  nameOf: (strand: string) => string,
): Promise<string> {
  const { json, resources } = await new WebIO().writeJSON(documentOf(name, meshes, nameOf), {});
  const buffers = (json.buffers ?? []).map((buffer) => {
    const bytes = resources[buffer.uri ?? ''] ?? new Uint8Array();
    const text = Array.from(bytes, (b) => String.fromCharCode(b)).join('');
    return { ...buffer, uri: `data:application/octet-stream;base64,${btoa(text)}` };
  });
  return JSON.stringify({ ...json, buffers }, null, 1);
}
