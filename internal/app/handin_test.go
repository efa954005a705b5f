package app_test

import (
	"net/http/httptest"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/handin"
	"dorbin/internal/handin/sim"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
	"dorbin/internal/store"
)

// newPortal serves a simulated receiver, and gives an order to hand in to its portal.
func newPortal(t *testing.T, state sim.State) (*sim.Office, handin.Order) {
	t.Helper()
	office := sim.New("Tarn Valley Fund", t.TempDir(), state)
	server := httptest.NewServer(office.Handler())
	t.Cleanup(server.Close)
	return office, handin.Order{Delivery: requirements.Delivery{By: requirements.ByPortal, Address: server.URL + "/upload"}}
}

// formMade is a packet with a form, and the export of it.
func formMade(t *testing.T, a *app.App) (packetID, exportID string) {
	t.Helper()
	packetID = newPacket(t, a)
	add(t, a, packetID, "application-form.pdf", paper(t, "application-form.pdf"))
	apply(t, a, packetID, packet.SetReceiver{Receiver: &requirements.Receiver{Name: "Tarn Valley Fund"}})
	_, made := exportAsItIs(t, a, packetID)
	return packetID, made.ID
}

// ended waits until a document was handed in, or not.
func ended(t *testing.T, a *app.App, id string) (d handin.HandedIn) {
	t.Helper()
	await.Until(t, func() bool {
		var err error
		d, err = a.HandIn.Get(t.Context(), id)
		require.NoError(t, err)
		return d.Ended != nil
	})
	return d
}

func came(t *testing.T, office *sim.Office) []sim.Document {
	t.Helper()
	all, err := office.Documents()
	require.NoError(t, err)
	return all
}

func TestADocumentIsHandedInAndChangesAfterwardsAreTold(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	office, order := newPortal(t, sim.State{})
	id, made := formMade(t, a)
	d, err := a.HandIn.Start(t.Context(), made, order)
	require.NoError(t, err)
	d = ended(t, a, d.ID)
	require.Equal(t, store.DeliveryDone, d.State, d.Problem)
	assert.Equal(t, "Tarn Valley Fund", d.Receiver)
	assert.Regexp(t, `^TVF-\d+-0001 \(Received\.\)$`, d.Answer.English)
	assert.Nil(t, d.Since)
	assert.Equal(t, d.Bytes, d.Sent)
	require.Len(t, came(t, office), 1)
	assert.Equal(t, d.SHA256, came(t, office)[0].SHA256)

	p, err := a.Packets.Get(t.Context(), id)
	require.NoError(t, err)
	second := p.Parts[0].Pages[1].ID
	apply(t, a, id, packet.Turn{Selected: packet.On(second), By: 90})
	last, err := a.HandIn.Last(t.Context())
	require.NoError(t, err)
	require.Len(t, last, 1)
	assert.Equal(t, &export.Since{Pages: []packet.PageID{second}}, last[0].Since)
	undo(t, a, id)
	d, err = a.HandIn.Get(t.Context(), d.ID)
	require.NoError(t, err)
	assert.Nil(t, d.Since, "what was taken back is no change")

	path, name, err := a.HandIn.File(t.Context(), d.ID)
	require.NoError(t, err)
	assert.Equal(t, d.Name, name)
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.Equal(t, d.Bytes, info.Size())

	require.NoError(t, a.Packets.Delete(t.Context(), id))
	_, err = os.Stat(path)
	require.ErrorIs(t, err, os.ErrNotExist, "a deleted packet leaves nothing of what was handed in")
	_, err = a.HandIn.Get(t.Context(), d.ID)
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestWhatWasTakenThereByHandIsNoted(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id, made := formMade(t, a)
	d, err := a.HandIn.Start(t.Context(), made, handin.Order{Delivery: requirements.Delivery{By: requirements.ByDownload}, Answer: " No. 17 "})
	require.NoError(t, err)
	assert.Equal(t, store.DeliveryDone, d.State)
	assert.Equal(t, "No. 17", d.Answer.English)
	all, err := a.HandIn.List(t.Context(), id)
	require.NoError(t, err)
	assert.Len(t, all, 1)
}

func TestABrokenLineIsTriedAgainByItself(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	for _, fault := range []sim.Fault{sim.BreaksOff, sim.Loses} {
		office, order := newPortal(t, sim.State{Fault: fault, AfterKB: 4})
		_, made := formMade(t, a)
		d, err := a.HandIn.Start(t.Context(), made, order)
		require.NoError(t, err)
		d = ended(t, a, d.ID)
		assert.Equal(t, store.DeliveryDone, d.State, "%s: %s", fault, d.Problem)
		assert.Len(t, came(t, office), 1, fault)
	}
}

func TestWhatWasRefusedIsHandedInAgain(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	office, order := newPortal(t, sim.State{Fault: sim.Refuses, Protected: true})
	order.Delivery.User = sim.User
	_, made := formMade(t, a)
	d, err := a.HandIn.Start(t.Context(), made, order)
	require.NoError(t, err)
	d = ended(t, a, d.ID)
	assert.Equal(t, store.DeliveryFailed, d.State)
	assert.Contains(t, d.Problem.English, "asks for the password of club")
	d, err = a.HandIn.Again(t.Context(), d.ID, handin.Order{Password: sim.Password, Keep: true})
	require.NoError(t, err)
	d = ended(t, a, d.ID)
	assert.Contains(t, d.Problem.English, "The application form is not signed.")
	office.Set(sim.State{Protected: true})
	d, err = a.HandIn.Again(t.Context(), d.ID, handin.Order{}) // the password was kept
	require.NoError(t, err)
	d = ended(t, a, d.ID)
	assert.Equal(t, store.DeliveryDone, d.State, d.Problem)
	_, err = a.HandIn.Again(t.Context(), d.ID, handin.Order{})
	require.ErrorContains(t, err, "has arrived, or is on its way")
	assert.Len(t, came(t, office), 1)
}

func TestADeliveryIsCancelled(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	office, order := newPortal(t, sim.State{SlowKB: 1})
	_, made := formMade(t, a)
	d, err := a.HandIn.Start(t.Context(), made, order)
	require.NoError(t, err)
	await.Until(t, func() bool { return office.Attempts() > 0 })
	_, err = a.HandIn.Cancel(t.Context(), d.ID)
	require.NoError(t, err)
	d = ended(t, a, d.ID)
	assert.Equal(t, store.DeliveryCancelled, d.State)
	office.Set(sim.State{}) // it reads what is left in the line
	assert.Empty(t, came(t, office))
}

// TestADeliveryGoesOnAtTheNextStart closes the program while a document is on its way.
func TestADeliveryGoesOnAtTheNextStart(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	office, order := newPortal(t, sim.State{SlowKB: 1})
	_, made := formMade(t, a)
	d, err := a.HandIn.Start(t.Context(), made, order)
	require.NoError(t, err)
	await.Until(t, func() bool { return office.Attempts() > 0 })
	require.NoError(t, a.Close())
	office.Set(sim.State{})
	a = openApp(t, folder, intake.DefaultLimits)
	defer func() { require.NoError(t, a.Close()) }()
	d = ended(t, a, d.ID)
	assert.Equal(t, store.DeliveryDone, d.State, d.Problem)
	assert.Len(t, came(t, office), 1)
}

func TestOnlyWhatTheInstallationAllows(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	_, made := formMade(t, a)
	for want, d := range map[string]requirements.Delivery{
		"There is no folder Outbox": {By: requirements.ByFolder, Address: "Outbox"},
		"No mail server is set up":  {By: requirements.ByMail, Address: "post@fund.example"},
		"use its https address":     {By: requirements.ByPortal, Address: "http://fund.example"},
	} {
		_, err := a.HandIn.Start(t.Context(), made, handin.Order{Delivery: d})
		require.ErrorContains(t, err, want)
	}
	assert.Equal(t, handin.Ways{Folders: []string{}}, a.HandIn.Ways())
}
