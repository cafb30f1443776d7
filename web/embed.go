// Package web holds the built pages.
package web

import "embed"

// Dist is what the page build leaves in dist. Where the pages have not been
// built it holds no index.html.
//
//go:embed all:dist
var Dist embed.FS
