// Package job is the core's front door: it keeps a job's facts, and answers what the
// screens ask of it.
package job

import (
	"slices"
	"time"

	"evensteps/core/diagnosis"
	"evensteps/core/findings"
	"evensteps/core/machine"
	"evensteps/core/record"
	"evensteps/core/scene"
	"evensteps/core/steps"
	"evensteps/core/view"
)

// Book keeps a job's facts and the plans already made, so that a touch costs
// one fold and seldom a plan.
type Book struct {
	Map   *machine.Map
	Job   scene.Job
	facts []record.Fact
	folds record.Folds
	plans *scene.Plans
}

// Open begins a book.
func Open(m *machine.Map, job scene.Job) *Book {
	return &Book{Map: m, Job: job, plans: &scene.Plans{}}
}

// Add puts facts into the book in the order in which they count. Facts that
// are there already are not added twice.
func (b *Book) Add(facts ...record.Fact) {
	b.facts = record.Order(append(slices.Clone(b.facts), facts...))
}

// Facts are all the facts of the book, in the order in which they count.
func (b *Book) Facts() []record.Fact { return b.facts }

// look folds the facts into one scene.
func (b *Book) look(viewer scene.Viewer, now time.Time) *scene.Scene {
	b.folds.Company = b.Job.Company()
	return scene.Look(b.Map, b.Job, b.folds.Fold(b.Map, b.facts), b.plans, viewer, now)
}

// View is what the screens show: view(map, job, events, viewer, now).
func (b *Book) View(viewer scene.Viewer, now time.Time) *View {
	sc := b.look(viewer, now)
	return spoken(Of(sc), sc)
}

// Shown is the view as one viewer's screen needs it: with both sides of the step that
// is on and of the one that is looked at, of all others what the ladder says.
func (b *Book) Shown(viewer scene.Viewer, now time.Time) *View {
	viewer.OneScreen = true
	return b.View(viewer, now)
}

// Find weighs what is wrong from all that is known of the job.
func (b *Book) Find(viewer scene.Viewer, now time.Time) *diagnosis.Find {
	sc := b.look(viewer, now)
	return spoken(diagnosis.Search(sc), sc)
}

// Decide compares what can be done from all that is known of the job. Without a
// price of a new machine, repair and replacement are not compared.
func (b *Book) Decide(viewer scene.Viewer, now time.Time, typed diagnosis.Typed) *diagnosis.Decide {
	sc := b.look(viewer, now)
	return spoken(diagnosis.Choose(sc, typed), sc)
}

// Prove says of a proof that is being typed what it lacks, what it shows, and
// what Done records. on is the move or check that it is of. The error is of a
// step that asks for no proof.
func (b *Book) Prove(viewer scene.Viewer, now time.Time, on string, draft map[string]string) (*steps.Proving, error) {
	sc := b.look(viewer, now)
	p, err := steps.Prove(sc, on, draft)
	return spoken(p, sc), err
}

// Judge holds a reading that is being taken against what is expected of it. The error
// is of a test that takes none.
func (b *Book) Judge(viewer scene.Viewer, now time.Time, read record.ReadingTaken) (*findings.Judged, error) {
	sc := b.look(viewer, now)
	got, err := findings.Judge(sc, &read)
	return spoken(got, sc), err
}

// spoken is an answer in the words of the viewer's region.
func spoken[T any](out *T, sc *scene.Scene) *T {
	view.Speak(out, sc.Region())
	return out
}
