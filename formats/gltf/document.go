package gltf

// The parts of glTF's JSON that Bead writes (glTF 2.0 specification, chapter 5).
type document struct {
	Asset       asset        `json:"asset"`
	Scene       int          `json:"scene"`
	Scenes      []sceneNodes `json:"scenes"`
	Nodes       []node       `json:"nodes,omitempty"`
	Meshes      []mesh       `json:"meshes,omitempty"`
	Materials   []material   `json:"materials,omitempty"`
	Textures    []texture    `json:"textures,omitempty"`
	Images      []image      `json:"images,omitempty"`
	Skins       []skin       `json:"skins,omitempty"`
	Animations  []animation  `json:"animations,omitempty"`
	Accessors   []accessor   `json:"accessors,omitempty"`
	BufferViews []bufferView `json:"bufferViews,omitempty"`
	Buffers     []buffer     `json:"buffers,omitempty"`
	Cameras     []camera     `json:"cameras,omitempty"`

	Samplers []textureSampler `json:"samplers,omitempty"`
	Used     []string         `json:"extensionsUsed,omitempty"`
	Required []string         `json:"extensionsRequired,omitempty"`
}

type asset struct {
	Version   string `json:"version"`
	Generator string `json:"generator"`
}

type sceneNodes struct {
	Name   string         `json:"name"`
	Nodes  []int          `json:"nodes,omitempty"`
	Extras map[string]any `json:"extras,omitempty"`
}

type node struct {
	Name        string      `json:"name"`
	Mesh        *int        `json:"mesh,omitempty"`
	Skin        *int        `json:"skin,omitempty"`
	Camera      *int        `json:"camera,omitempty"`
	Weights     []float32   `json:"weights,omitempty"`
	Children    []int       `json:"children,omitempty"`
	Translation *[3]float32 `json:"translation,omitempty"`
	Rotation    *[4]float32 `json:"rotation,omitempty"`
	Scale       *[3]float32 `json:"scale,omitempty"`

	Extensions map[string]any `json:"extensions,omitempty"`
	Extras     map[string]any `json:"extras,omitempty"`
}

type mesh struct {
	Name       string         `json:"name"`
	Primitives []primitive    `json:"primitives"`
	Extras     map[string]any `json:"extras,omitempty"`
}

type primitive struct {
	Attributes map[string]int `json:"attributes"`
	Indices    *int           `json:"indices,omitempty"`
	Material   int            `json:"material"`
	Mode       *int           `json:"mode,omitempty"` // triangles where left out

	Targets []map[string]int `json:"targets,omitempty"`
}

type material struct {
	Name   string       `json:"name"`
	PBR    pbr          `json:"pbrMetallicRoughness"`
	Normal *textureInfo `json:"normalTexture,omitempty"`
	Alpha  string       `json:"alphaMode,omitempty"`
}

type pbr struct {
	BaseColor    [4]float64   `json:"baseColorFactor"`
	Metallic     float64      `json:"metallicFactor"`
	Roughness    float64      `json:"roughnessFactor"`
	BaseTexture  *textureInfo `json:"baseColorTexture,omitempty"`
	RoughTexture *textureInfo `json:"metallicRoughnessTexture,omitempty"`
}

type textureInfo struct {
	Index      int            `json:"index"`
	Extensions map[string]any `json:"extensions,omitempty"`
}

type texture struct {
	Sampler int `json:"sampler"`
	Source  int `json:"source"`
}

type textureSampler struct {
	Mag   int `json:"magFilter"`
	Min   int `json:"minFilter"`
	WrapS int `json:"wrapS"`
	WrapT int `json:"wrapT"`
}

type image struct {
	Name  string `json:"name,omitempty"`
	Media string `json:"mimeType"`
	View  int    `json:"bufferView"`
}

type animation struct {
	Name     string    `json:"name"`
	Channels []channel `json:"channels"`
	Samplers []sampler `json:"samplers"`
}

type channel struct {
	Sampler int    `json:"sampler"`
	Target  target `json:"target"`
}

type target struct {
	Node int    `json:"node"`
	Path string `json:"path"`
}

type sampler struct {
	Input         int    `json:"input"`
	Output        int    `json:"output"`
	Interpolation string `json:"interpolation"`
}

type accessor struct {
	BufferView    int       `json:"bufferView"`
	ByteOffset    int       `json:"byteOffset,omitempty"`
	ComponentType int       `json:"componentType"`
	Count         int       `json:"count"`
	Type          string    `json:"type"`
	Min           []float32 `json:"min,omitempty"`
	Max           []float32 `json:"max,omitempty"`
}

type bufferView struct {
	Buffer     int `json:"buffer"`
	ByteOffset int `json:"byteOffset,omitempty"`
	ByteLength int `json:"byteLength"`
	Target     int `json:"target,omitempty"`
}

type buffer struct {
	URI        string `json:"uri,omitempty"`
	ByteLength int    `json:"byteLength"`
}

const (
	typeUint32   = 5125
	typeFloat32  = 5126
	targetVertex = 34962
	targetIndex  = 34963
)
