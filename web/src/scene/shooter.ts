import {
  AdditiveBlending,
  Color,
  FloatType,
  HalfFloatType,
  Mesh,
  NoBlending,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  WebGLRenderTarget,
  type Camera,
  type WebGLRenderer,
} from 'three'

const vertexShader = `varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`

/** The two colours behind a picture, above and below; null: what is behind shows through. */
export type Behind = [string, string] | null

/**
 * Takes pictures of a scene. Each is the mean of one or more moments, taken as light, which is what an open
 * shutter sees; only then is it made into colours.
 */
export class Shooter {
  private readonly one: WebGLRenderTarget
  private readonly sum: WebGLRenderTarget
  private readonly quad = new Mesh(new PlaneGeometry(2, 2))
  private readonly flat = new Scene()
  private readonly eye = new OrthographicCamera(-1, 1, 1, -1, 0, 1)
  private readonly add = new ShaderMaterial({
    vertexShader,
    fragmentShader: `varying vec2 at; uniform sampler2D from; uniform float share;
      void main() { gl_FragColor = texture2D(from, at) * share; }`,
    uniforms: { from: { value: null }, share: { value: 1 } },
    blending: AdditiveBlending,
    premultipliedAlpha: true,
    depthTest: false,
    depthWrite: false,
    transparent: true,
  })
  private readonly show = new ShaderMaterial({
    vertexShader,
    // The background is a colour of paper and no light: it is not toned with the rest.
    fragmentShader: `varying vec2 at; uniform sampler2D from; uniform vec3 above; uniform vec3 below; uniform float paper;
      void main() {
        vec4 light = texture2D(from, at);
        float a = clamp(light.a, 0.0, 1.0);
        gl_FragColor = vec4(light.rgb / max(a, 1e-5), 1.0);
        #include <tonemapping_fragment>
        #include <colorspace_fragment>
        vec3 behind = mix(below, above, at.y);
        gl_FragColor = vec4(mix(behind * paper, gl_FragColor.rgb, a), mix(a, 1.0, paper));
      }`,
    uniforms: {
      from: { value: null },
      above: { value: new Color() },
      below: { value: new Color() },
      paper: { value: 0 },
    },
    blending: NoBlending,
    depthTest: false,
    depthWrite: false,
  })

  constructor(
    private readonly gl: WebGLRenderer,
    private readonly scene: Scene,
    width: number,
    height: number,
    smooth: boolean,
  ) {
    this.one = new WebGLRenderTarget(width, height, { type: HalfFloatType, samples: smooth ? 4 : 0 })
    this.sum = new WebGLRenderTarget(width, height, { type: FloatType, depthBuffer: false })
    this.quad.frustumCulled = false
    this.flat.add(this.quad)
  }

  /** Shoots so many moments onto the renderer's canvas; putUp is called before each. */
  shoot(camera: Camera, moments: number, putUp: (k: number) => void, behind: Behind) {
    const { gl } = this
    gl.setClearColor(0, 0)
    gl.autoClear = true
    gl.setRenderTarget(this.sum)
    gl.clear()
    for (let k = 0; k < moments; k++) {
      putUp(k)
      gl.setRenderTarget(this.one)
      gl.clear()
      gl.render(this.scene, camera)
      gl.autoClear = false
      gl.setRenderTarget(this.sum)
      this.add.uniforms.from!.value = this.one.texture
      this.add.uniforms.share!.value = 1 / moments
      this.quad.material = this.add
      gl.render(this.flat, this.eye)
      gl.autoClear = true
    }
    gl.setRenderTarget(null)
    const { uniforms } = this.show
    uniforms.from!.value = this.sum.texture
    uniforms.paper!.value = behind ? 1 : 0
    // In display colours: that is what the picture is put together in.
    if (behind)
      for (const [k, name] of ['above', 'below'].entries()) {
        ;(uniforms[name]!.value as Color).set(behind[k]!).convertLinearToSRGB()
      }
    this.quad.material = this.show
    gl.render(this.flat, this.eye)
  }

  dispose() {
    for (const x of [this.one, this.sum, this.add, this.show, this.quad.geometry]) x.dispose()
  }
}
