// Package server is the HTTP side: routes, their OpenAPI description, events
// sent to the browser, and the embedded front end.
//
// It may import internal/app and core types that requests and answers are made
// of. It holds no rules of the job.
package server
