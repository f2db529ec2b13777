import { Color, ShaderMaterial } from 'three'

/**
 * Faces as a drawing shades them: flat, in the tint of their stock, darker the more they turn away. It asks so little
 * of each pixel that a machine without a graphics card can turn a whole assembly.
 */
export class PaperMaterial extends ShaderMaterial {
  constructor(tint: string) {
    super({
      uniforms: { tint: { value: shown(tint) }, glow: { value: new Color(0, 0, 0) } },
      vertexShader: `
        uniform vec3 tint;
        uniform vec3 glow;
        varying vec3 shade;
        void main() {
          vec3 facing = normalize(normalMatrix * normal);
          shade = tint * pow(0.4775 + 0.541 * max(0.0, facing.z), 0.4545) + glow;
          gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
        }`,
      fragmentShader: `
        varying vec3 shade;
        void main() { gl_FragColor = vec4(shade, 1.0); }`,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    })
  }

  set glow(added: readonly [number, number, number]) {
    ;(this.uniforms.glow?.value as Color).fromArray(added)
  }
}

/** A colour as the screen shows it, not as light adds up. */
function shown(tint: string): Color {
  return new Color(tint).convertLinearToSRGB()
}
