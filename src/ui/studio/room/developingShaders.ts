/** Shaders of `Developing`: what each makes of the picture before it. */

export const QUAD = `
varying vec2 vUv;
void main() {
  vUv = uv;
  gl_Position = vec4(position.xy, 0.0, 1.0);
}`;

const AWAY = `
uniform float near;
uniform float far;
float awayAt(float depth) { return near * far / (far - depth * (far - near)); }
`;

/** Where each place faces, seen from the camera, and how far it is: read from the depths of its neighbours. */
export const FACES = `${AWAY}
varying vec2 vUv;
uniform highp sampler2D tDepth;
uniform mat4 inverse;
vec3 placeAt(vec2 uv, float depth) {
  vec4 p = inverse * vec4(vec3(uv, depth) * 2.0 - 1.0, 1.0);
  return p.xyz / p.w;
}
void main() {
  ivec2 size = textureSize(tDepth, 0);
  ivec2 p = min(ivec2(vUv * vec2(size)), size - 1);
  float c = texelFetch(tDepth, p, 0).r;
  if (c >= 1.0) {
    gl_FragColor = vec4(0.0, 0.0, 1.0, 1e4);
    return;
  }
  vec2 texel = 1.0 / vec2(size);
  vec2 at = (vec2(p) + 0.5) * texel;
  // on each axis the neighbour that lies more nearly on one face with the place
  float l = texelFetch(tDepth, max(p - ivec2(1, 0), ivec2(0)), 0).r;
  float r = texelFetch(tDepth, min(p + ivec2(1, 0), size - 1), 0).r;
  float b = texelFetch(tDepth, max(p - ivec2(0, 1), ivec2(0)), 0).r;
  float t = texelFetch(tDepth, min(p + ivec2(0, 1), size - 1), 0).r;
  vec3 here = placeAt(at, c);
  vec3 dx = abs(l - c) < abs(r - c)
    ? here - placeAt(at - vec2(texel.x, 0.0), l)
    : placeAt(at + vec2(texel.x, 0.0), r) - here;
  vec3 dy = abs(b - c) < abs(t - c)
    ? here - placeAt(at - vec2(0.0, texel.y), b)
    : placeAt(at + vec2(0.0, texel.y), t) - here;
  gl_FragColor = vec4(normalize(cross(dx, dy)), awayAt(c));
}`;

/** What was exposed and bent so that samples could be averaged. */
const LIGHT_IN = `
uniform float exposed;
vec3 lightOf(vec3 bent) { return bent / max(1.0 - max(bent.r, max(bent.g, bent.b)), 1e-3) / exposed; }
`;

/** The occlusion's grain, five by five, smoothed within a face. */
export const BLUR = `
varying vec2 vUv;
uniform sampler2D tOcclusion;
uniform sampler2D tFaces;
uniform vec2 texel;
void main() {
  vec4 here = texture2D(tFaces, vUv);
  float sum = 0.0;
  float weights = 0.0;
  for (int j = -2; j <= 2; j++)
    for (int i = -2; i <= 2; i++) {
      vec2 at = vUv + vec2(float(i), float(j)) * texel;
      vec4 there = texture2D(tFaces, at);
      float near = max(0.0, 1.0 - abs(here.w - there.w) / (0.02 * here.w + 0.02));
      float w = (0.5 + max(0.0, dot(here.xyz, there.xyz))) * near;
      sum += w * texture2D(tOcclusion, at).r;
      weights += w;
    }
  gl_FragColor = vec4(weights > 0.0 ? sum / weights : 1.0);
}`;

/** Logarithms of lightness, weighted; their mean is told by the last mip level. */
export const METER = `${LIGHT_IN}
varying vec2 vUv;
uniform sampler2D tLight;
uniform highp sampler2D tDepth;
uniform float skyCounts;
void main() {
  // a place of the meter looks at four of the picture
  float sum = 0.0;
  float weights = 0.0;
  for (int n = 0; n < 4; n++) {
    vec2 at = vUv + (vec2(float(n & 1), float(n >> 1)) - 0.5) / 128.0;
    float sky = step(1.0, texture2D(tDepth, at).r);
    vec2 off = (at - 0.5) * 2.0;
    float w = mix(1.0, 0.35 * skyCounts, sky) * (1.0 - 0.6 * min(1.0, dot(off, off)));
    float lightness = dot(lightOf(texture2D(tLight, at).rgb), vec3(0.2126, 0.7152, 0.0722));
    sum += w * log2(clamp(lightness, 1e-4, 4.0));
    weights += w;
  }
  gl_FragColor = vec4(sum, weights, 0.0, 1.0) * 0.25;
}`;

/** What was metered, as one place: exposure. */
export const EXPOSE = `
uniform sampler2D tMetered;
uniform float levels;
uniform float meant;
void main() {
  vec2 metered = textureLod(tMetered, vec2(0.5), levels).rg;
  gl_FragColor = vec4(metered.g > 0.0 ? meant / exp2(metered.r / metered.g) : 1.0);
}`;

/** Light as a picture: occluded, exposed, through the curve, in sRGB; the scene's depths go with it. */
export const DEVELOP = `${AWAY}${LIGHT_IN}
varying vec2 vUv;
uniform sampler2D tLight;
uniform highp sampler2D tDepth;
uniform sampler2D tFaces;
uniform sampler2D tOcclusion;
uniform sampler2D tExposure;
uniform vec2 halfSize;
uniform float occluded;
uniform float occlusionOnly;
uniform float film;
uniform float fixedExposure;
uniform float stops;
uniform vec3 white;
uniform vec3 background;
uniform float ownBackground;

/** Of the four nearest places of the half-sized picture, those on the same face. */
float occlusionAt(float depth) {
  float here = awayAt(depth);
  vec2 at = vUv * halfSize - 0.5;
  vec2 base = floor(at);
  vec2 part = at - base;
  float sum = 0.0;
  float weights = 0.0;
  for (int n = 0; n < 4; n++) {
    vec2 o = vec2(float(n & 1), float(n >> 1));
    vec2 uv = (base + o + 0.5) / halfSize;
    float w = mix(1.0 - part.x, part.x, o.x) * mix(1.0 - part.y, part.y, o.y);
    w = (w + 0.01) * max(0.001, 1.0 - abs(texture2D(tFaces, uv).w - here) / (0.02 * here + 0.02));
    sum += w * texture2D(tOcclusion, uv).r;
    weights += w;
  }
  return sum / weights;
}

void main() {
  float depth = texture2D(tDepth, vUv).r;
  gl_FragDepth = depth;
  vec3 light = lightOf(texture2D(tLight, vUv).rgb);
  // far away a pixel is more than what stands near could shade
  float open = occluded > 0.5 && depth < 1.0
    ? mix(occlusionAt(depth), 1.0, smoothstep(30.0, 60.0, awayAt(depth)))
    : 1.0;
  if (occlusionOnly > 0.5) {
    gl_FragColor = vec4(vec3(open), 1.0);
    return;
  }
  if (depth >= 1.0 && ownBackground > 0.5) {
    gl_FragColor = vec4(background, 1.0);
    return;
  }
  float exposure = fixedExposure > 0.0 ? fixedExposure : texture2D(tExposure, vec2(0.5)).r;
  vec3 seen = light / white * open * exposure * stops;
  vec3 c = film > 0.5 ? developFilm(seen) : developNeutral(seen);
  c = mix(12.92 * c, 1.055 * pow(max(c, 1e-6), vec3(1.0 / 2.4)) - 0.055, step(0.0031308, c));
  gl_FragColor = vec4(c, 1.0);
}`;
