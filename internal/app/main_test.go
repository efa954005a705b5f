package app_test

import (
	"os"
	"testing"

	"dorbin/internal/app"
	"dorbin/internal/worker/workertest"
)

func TestMain(m *testing.M) { os.Exit(workertest.Main(m, app.Work)) }
