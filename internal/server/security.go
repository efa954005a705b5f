package server

import (
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"
)

// contentSecurityPolicy lets pages load nothing from elsewhere. Styles are set
// by the component library at run time, hence unsafe-inline for them alone.
const contentSecurityPolicy = "default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; " +
	"object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"

func securityHeaders(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		header := w.Header()
		header.Set("Content-Security-Policy", contentSecurityPolicy)
		header.Set("X-Content-Type-Options", "nosniff")
		header.Set("Referrer-Policy", "no-referrer")
		header.Set("Cross-Origin-Opener-Policy", "same-origin")
		header.Set("Cross-Origin-Resource-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

// stallTime is how long a request's body may bring nothing.
const stallTime = time.Minute

// endStalled ends requests whose bodies bring nothing for a time.
func endStalled(stall time.Duration) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if r.Body != nil && r.Body != http.NoBody {
				r.Body = &watchedBody{r.Body, http.NewResponseController(w), stall}
			}
			next.ServeHTTP(w, r)
		})
	}
}

// watchedBody gives each read of a body a deadline of its own.
type watchedBody struct {
	io.ReadCloser
	connection *http.ResponseController
	stall      time.Duration
}

func (b *watchedBody) Read(p []byte) (int, error) {
	_ = b.connection.SetReadDeadline(time.Now().Add(b.stall)) // tests have connections without
	// None stays: the request may take long once its body is there.
	defer b.connection.SetReadDeadline(time.Time{}) //nolint:errcheck // as above
	return b.ReadCloser.Read(p)
}

// checkHost refuses requests for a name the server does not go by, so that a
// foreign page cannot reach it by pointing its own name at this machine.
func checkHost(listen string) func(http.Handler) http.Handler {
	listenHost, _, _ := net.SplitHostPort(listen)
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			if !knownHost(r.Host, listenHost) {
				http.Error(w, "This server does not go by that name.", http.StatusMisdirectedRequest)
				return
			}
			next.ServeHTTP(w, r)
		})
	}
}

func knownHost(hostPort, listenHost string) bool {
	host := hostPort
	if h, _, err := net.SplitHostPort(hostPort); err == nil {
		host = h
	}
	host = strings.Trim(host, "[]")
	if strings.EqualFold(host, "localhost") || host == listenHost {
		return true
	}
	ip := net.ParseIP(host)
	if ip == nil {
		return false
	}
	// A server told to listen on all addresses is reached by any of them.
	return ip.IsLoopback() || net.ParseIP(listenHost).IsUnspecified() || listenHost == ""
}

// checkOrigin refuses requests that change something and come from a page of
// another origin.
func checkOrigin(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		origin := r.Header.Get("Origin")
		if r.Method != http.MethodGet && r.Method != http.MethodHead && origin != "" {
			if u, err := url.Parse(origin); err != nil || u.Host != r.Host {
				http.Error(w, "Requests from other sites are refused.", http.StatusForbidden)
				return
			}
		}
		next.ServeHTTP(w, r)
	})
}
