package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"bead/core/check"
	"bead/core/rig"
	"bead/core/scene"
	"bead/delivery"
)

// Version is that of the API. Its routes stand below /api/v1, and below /api for those who take the
// newest.
const Version = "v1"

// raw is a request or an answer that is no JSON, by its media type.
type raw string

// none is a request or an answer without a body.
type none struct{}

// route is one address with what it takes and answers: the server, the description of the API and its
// tests are made of these.
type route struct {
	method, path string
	does         string // in a sentence
	takes        any    // a value of the type; nil: nothing
	answers      any
	status       int // of the answer
	query        []parameter
	problems     []string // codes, beside those that any route may answer
	handle       gin.HandlerFunc
}

// parameter is one behind the question mark.
type parameter struct{ name, does string }

var ofFile = parameter{"file", "The file's name, whose ending says what it is."}

// table are all routes.
func (s *Server) table() []route {
	const ok, made, nothing = http.StatusOK, http.StatusCreated, http.StatusNoContent
	get, post, put, patch, del := http.MethodGet, http.MethodPost, http.MethodPut, http.MethodPatch, http.MethodDelete
	doc := scene.Document{}
	return []route{
		{get, "/about", "What this server is, with its starters, formats and destinations.", nil, About{}, ok, nil, nil, s.about},
		{get, "/openapi.json", "This description.", nil, raw("application/json"), ok, nil, nil, s.openapi},
		{get, "/scenes", "Lists the scenes, the last one touched first.", nil, []SceneCard{}, ok, nil, nil, s.listScenes},
		{post, "/scenes", "Makes a scene that a starter begins.", NewScene{}, SceneState{}, made, nil, []string{"starter"}, s.createScene},
		{post, "/scenes/document", "Makes a scene of a document as it lies in its file, or of a GLB that Bead wrote.", raw("application/json"), SceneState{}, made, nil, []string{"document", "file"}, s.takeDocument},
		{post, "/documents", "A document of any version in the present one.", OfDocument{}, doc, ok, nil, []string{"document"}, s.present},
		{get, "/scenes/:id", "A scene. Its ETag is that of its revision; If-None-Match is answered with 304.", nil, SceneState{}, ok, nil, []string{"scene", "unreadable"}, s.getScene},
		{put, "/scenes/:id", "Saves a document over the revision that it was made of.", SaveScene{}, SceneState{}, ok, nil, []string{"scene", "conflict", "document", "size"}, s.saveScene},
		{patch, "/scenes/:id", "Saves what has changed since a revision.", PatchScene{}, Kept{}, ok, nil, []string{"scene", "conflict", "patch", "document"}, s.patchScene},
		{del, "/scenes/:id", "Deletes a scene.", nil, none{}, nothing, nil, []string{"scene"}, s.deleteScene},
		{post, "/scenes/:id/copy", "Copies a scene.", nil, SceneState{}, made, []parameter{{"begin", "true: the new scene keeps the name."}}, []string{"scene"}, s.copyScene},
		{put, "/scenes/:id/beginning", "Keeps a scene as a beginning for others, or no longer.", KeepScene{}, none{}, nothing, nil, []string{"scene"}, s.keepScene},
		{post, "/scenes/:id/undo", "Takes the last step back.", AtRevision{}, SceneState{}, ok, nil, []string{"scene", "conflict", "step"}, s.undoScene},
		{post, "/scenes/:id/redo", "Takes a step again that was taken back.", AtRevision{}, SceneState{}, ok, nil, []string{"scene", "conflict", "step"}, s.redoScene},
		{get, "/scenes/:id/history", "The steps of a scene, the newest first.", nil, []HistoryStep{}, ok, nil, []string{"scene"}, s.history},
		{post, "/scenes/:id/history/:seq", "Goes to a step of the history.", AtRevision{}, SceneState{}, ok, nil, []string{"scene", "conflict", "step"}, s.goToStep},
		{get, "/scenes/:id/picture.svg", "A small still of a scene.", nil, raw("image/svg+xml"), ok, []parameter{{"revision", "Nothing but a part of the address, so that a kept one is not shown for long."}}, []string{"scene"}, s.picture},
		{get, "/scenes/:id/document", "A scene as a file, with the assets that it needs.", nil, raw("application/json"), ok, nil, []string{"scene"}, s.document},
		{get, "/scenes/:id/live", "The live channel, a WebSocket: docs/protocol.md.", nil, none{}, http.StatusSwitchingProtocols, nil, []string{"scene"}, s.live},
		{post, "/paths/read", "Reads paths of a file; nothing is kept.", raw("application/octet-stream"), []ReadPath{}, ok, []parameter{ofFile, {"smooth", "true: a smooth curve through a table's points."}}, []string{"file"}, s.readPaths},
		{post, "/paths/points", "A path with its steps taken, as spline points.", OfPath{}, ReadPath{}, ok, nil, []string{"document", "path", "shape"}, s.toPoints},
		{post, "/paths/insert", "One more point in a spline, its shape unchanged.", ShapeRequest{}, ReadPath{}, ok, nil, []string{"document", "shape"}, s.insertPoint},
		{post, "/paths/resize", "The document with a path so many times as large about its middle.", ChangePath{}, doc, ok, nil, []string{"document", "times"}, s.changed("times", (*rig.Scene).Resize)},
		{post, "/paths/resize-with-rigs", "The same with the rigs on it.", ChangePath{}, doc, ok, nil, []string{"document", "times"}, s.changed("times", (*rig.Scene).ResizeWithRigs)},
		{post, "/paths/other-side", "The document with the mirror image of a path and of what rides on it, so many metres apart.", ChangePath{}, doc, ok, nil, []string{"document", "apart"}, s.changed("apart", (*rig.Scene).OtherSide)},
		{post, "/belts/order", "The order of a belt round the outside of its wheels, as their numbers from 0.", ShapeRequest{}, []int{}, ok, nil, []string{"document", "shape"}, s.beltOrder},
		{post, "/meshes", "Keeps a mesh's file.", raw("application/octet-stream"), ReadMesh{}, made, []parameter{ofFile}, []string{"file"}, s.takeMesh},
		{post, "/images", "Keeps an image of a material.", raw("application/octet-stream"), ReadImage{}, made, []parameter{ofFile}, []string{"file"}, s.takeImage},
		{get, "/images/:id", "An image of a material.", nil, raw("image/png"), ok, nil, []string{"image"}, s.image},
		{post, "/materials/read", "Reads the materials of a file; images in it are kept.", raw("application/octet-stream"), []ReadMaterial{}, ok, []parameter{ofFile}, []string{"file"}, s.readMaterials},
		{post, "/figures", "Keeps a figure's file and proposes how it goes.", raw("application/octet-stream"), ReadFigure{}, made, []parameter{ofFile}, []string{"file"}, s.takeFigure},
		{post, "/meshes/edges", "The chain of a fixture's edges nearest to a place.", AskEdges{}, EdgeChain{}, ok, nil, []string{"document", "edge"}, s.edges},
		{post, "/meshes/wire", "The edges of a part in its own axes, six numbers each.", AskWire{}, []float32{}, ok, nil, []string{"document"}, s.wire},
		{post, "/pictures", "Pictures at frames, one after another as messages of the live channel.", AskPictures{}, raw("application/octet-stream"), ok, nil, []string{"document", "frames"}, s.pictures},
		{post, "/checks", "Runs the checks of a scene in every frame of its range.", AskChecks{}, check.Verdict{}, ok, nil, []string{"scene", "document", "conflict", "checks"}, s.checkScene},
		{get, "/bakes", "Lists the bakes that are there, the newest first.", nil, []BakeState{}, ok, nil, nil, s.listBakes},
		{post, "/bakes", "Begins a bake. With an Idempotency-Key the same request may be sent again: it begins one bake.", AskBake{}, BakeState{}, http.StatusAccepted, nil, []string{"scene", "document", "conflict", "format", "range", "rigs", "density", "tolerance", "choices", "bakes", "idempotency"}, s.startBake},
		{get, "/bakes/:job", "How far a bake has come.", nil, BakeState{}, ok, nil, []string{"bake"}, s.bakeState},
		{del, "/bakes/:job", "Cancels a bake.", nil, none{}, nothing, nil, []string{"bake"}, s.cancelBake},
		{get, "/bakes/:job/file", "The file of a finished bake, for 15 minutes.", nil, raw("application/octet-stream"), ok, nil, []string{"bake"}, s.bakeFile},
		{get, "/bakes/:job/note", "What the file was made of, how, and what the checks say.", nil, delivery.Note{}, ok, nil, []string{"bake"}, s.bakeNote},
		{post, "/loops", "Loops of a rig near a wished length and speed.", AskLoops{}, Loops{}, ok, nil, []string{"document", "rig", "loop"}, s.loops},
		{post, "/carriers/move", "The document with a thing riding elsewhere and staying in its place.", MoveTo{}, doc, ok, nil, []string{"document", "carrier"}, s.reparent},
	}
}

func (s *Server) routes() {
	for _, base := range []string{"/api", "/api/" + Version} {
		api := s.engine.Group(base)
		for _, r := range s.table() {
			api.Handle(r.method, r.path, r.handle)
		}
	}
	s.engine.NoRoute(s.static)
}
