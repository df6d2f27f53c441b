// Package web holds the built front end. Without Node there is only a marker in
// dist, and the server says how to build the page.
package web

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var files embed.FS

// Page returns the built front end's files.
func Page() fs.FS {
	sub, err := fs.Sub(files, "dist")
	if err != nil {
		panic(err) // the name is a constant
	}
	return sub
}
