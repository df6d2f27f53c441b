package server

import (
	"encoding/json"
	"fmt"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/invopop/jsonschema"

	"bead/schema"
)

// The description of the API is made of the routes and of the Go types that they take and answer
// (OpenAPI 3.1, whose schemas are JSON Schema 2020-12).

// anyProblem are the codes that any route may answer.
var anyProblem = []string{"request", "size", "host", "origin", "key", "disk", "internal"}

// openapi sends the description.
func (s *Server) openapi(c *gin.Context) {
	c.Data(http.StatusOK, "application/json; charset=utf-8", s.description())
}

func (s *Server) description() []byte {
	s.describe.Do(func() {
		text, err := json.Marshal(describe(s.table(), s.cfg.Version))
		if err != nil {
			panic(err) // a type that cannot be described is a mistake of the program
		}
		s.api = text
	})
	return s.api
}

type object = map[string]any

var inPath = regexp.MustCompile(`:([a-z]+)`)

func describe(table []route, version string) object {
	schemas := object{}
	paths := map[string]object{}
	for i := range table {
		r := &table[i]
		at := inPath.ReplaceAllString(r.path, "{$1}")
		if paths[at] == nil {
			paths[at] = object{}
		}
		paths[at][strings.ToLower(r.method)] = operation(r, schemas)
	}
	return object{
		"openapi": "3.1.0",
		"info":    object{"title": "Bead", "version": version, "description": "Scenes, checks and bakes of Bead. Lengths are metres, angles degrees, times frames where nothing else is said."},
		"servers": []object{{"url": "/api/" + Version}},
		"paths":   paths,
		"components": object{"schemas": schemas, "securitySchemes": object{
			"key": object{"type": "http", "scheme": "bearer", "description": "The access key, where the server was started with one."}}},
		"security": []object{{}, {"key": []string{}}},
	}
}

func operation(r *route, schemas object) object {
	op := object{"summary": r.does, "operationId": operationID(r)}
	var parameters []object
	for _, m := range inPath.FindAllStringSubmatch(r.path, -1) {
		parameters = append(parameters, object{"name": m[1], "in": "path", "required": true, "schema": object{"type": "string"}})
	}
	for _, p := range r.query {
		parameters = append(parameters, object{"name": p.name, "in": "query", "required": p == ofFile, "description": p.does, "schema": object{"type": "string"}})
	}
	if r.path == "/bakes" && r.method == http.MethodPost {
		parameters = append(parameters, object{"name": idempotencyKey, "in": "header", "schema": object{"type": "string"}})
	}
	if parameters != nil {
		op["parameters"] = parameters
	}
	if r.takes != nil {
		op["requestBody"] = object{"required": true, "content": content(r.takes, schemas)}
	}
	good := object{"description": r.does}
	if _, empty := r.answers.(none); !empty {
		good["content"] = content(r.answers, schemas)
	}
	codes := append(slices.Clone(anyProblem), r.problems...)
	op["responses"] = object{
		fmt.Sprint(r.status): good,
		"default": object{"description": "A problem (RFC 9457). Its code is one of " + strings.Join(codes, ", ") + ".",
			"content": object{"application/problem+json": object{"schema": schemaIn(Problem{}, schemas)}}},
	}
	return op
}

// operationID names a route: getScenesId, postBakes.
func operationID(r *route) string {
	out := strings.ToLower(r.method)
	for _, word := range regexp.MustCompile(`[A-Za-z0-9]+`).FindAllString(r.path, -1) {
		out += strings.ToUpper(word[:1]) + word[1:]
	}
	return out
}

func content(of any, schemas object) object {
	if media, is := of.(raw); is {
		return object{string(media): object{}}
	}
	return object{"application/json": object{"schema": schemaIn(of, schemas)}}
}

// schemaIn is the schema of a value's type; what it refers to goes to the components.
func schemaIn(of any, schemas object) any {
	t := reflect.TypeOf(of)
	if t.Kind() == reflect.Slice {
		if t.Elem().Kind() != reflect.Struct {
			return schema.Of(of)
		}
		return object{"type": "array", "items": schemaIn(reflect.New(t.Elem()).Elem().Interface(), schemas)}
	}
	s := schema.Of(of)
	for name, d := range s.Definitions {
		if _, known := schemas[name]; !known {
			schemas[name] = moved(d)
		}
	}
	return object{"$ref": "#/components/schemas/" + strings.TrimPrefix(s.Ref, "#/$defs/")}
}

// moved is a definition whose references point to the components.
func moved(d *jsonschema.Schema) any {
	text, err := json.Marshal(d)
	var out any
	if err == nil {
		err = json.Unmarshal([]byte(strings.ReplaceAll(string(text), `"#/$defs/`, `"#/components/schemas/`)), &out)
	}
	if err != nil {
		panic(err)
	}
	return out
}
