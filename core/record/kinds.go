package record

import (
	"reflect"
	"slices"
	"strings"

	"evensteps/core/named"
)

// body is what every kind's body can do. A new kind is one such type, in the file of
// its family, and one row of kinds.
type body interface {
	// check says what is malformed about it, at the door.
	check() error
	// says names it in a few words, for Undo and for who takes over.
	says(named.Names) string
}

// applying is a kind that changes the state.
type applying interface{ apply(*folder, *Fact) }

// about is a kind that speaks of a rung: subject names what of it.
type about interface{ subject() string }

// where a kind is recorded.
type where int

const (
	anywhere    where = iota
	machineside       // only by who is at the machine: it puts them there
	desk              // by an office, too
)

type kind struct {
	new   func() body
	where where
}

func of[T any, P interface {
	*T
	body
}]() body {
	return P(new(T))
}

// kinds that this version reads and folds. Others are kept and shown as made
// by a newer version.
var kinds = map[string]kind{
	"visit.began":     {of[VisitBegan], machineside},
	"visit.ended":     {of[VisitEnded], anywhere},
	"person.here":     {of[PersonHere], machineside},
	"person.gone":     {of[PersonGone], anywhere},
	"option.answered": {of[OptionAnswered], desk},
	"complaint.added": {of[ComplaintAdded], desk},
	"goal.added":      {of[GoalAdded], anywhere},
	"goal.dropped":    {of[GoalDropped], anywhere},
	"found":           {of[Found], machineside},
	"rung.out":        {of[RungOut], machineside},
	"rung.half":       {of[RungHalf], machineside},
	"rung.back":       {of[RungBack], machineside},
	"rung.not-done":   {of[RungNotDone], machineside},
	"lot.counted":     {of[LotCounted], machineside},
	"lot.settled":     {of[LotSettled], machineside},
	"way.chosen":      {of[WayChosen], anywhere},
	"wire.confirmed":  {of[WireConfirmed], machineside},
	"confirmed":       {of[Confirmed], machineside},
	"energy.restored": {of[EnergyRestored], anywhere},
	"rung.own":        {of[RungOwn], machineside},
	"wire.said":       {of[WireSaid], machineside},
	"lead.moved":      {of[LeadMoved], machineside},
	"recorded":        {of[Recorded], machineside},
	"looked":          {of[Looked], machineside},
	"temporary.in":    {of[TemporaryIn], machineside},
	"temporary.out":   {of[TemporaryOut], machineside},
	"belonging":       {of[Belonging], machineside},
	"reading.taken":   {of[ReadingTaken], machineside},
	"test.result":     {of[TestResult], machineside},
	"cause.answered":  {of[CauseAnswered], anywhere},
	"decided":         {of[Decided], anywhere},
	"photo":           {of[Photo], desk},
	"bench.has":       {of[BenchHas], anywhere},
	"old-part":        {of[OldPart], anywhere},
	"used":            {of[Used], anywhere},
	"left-over":       {of[LeftOver], machineside},
	"difference":      {of[Difference], anywhere},
	"check.result":    {of[CheckResult], machineside},
	"final.result":    {of[FinalResult], machineside},
	"part.fitted":     {of[PartFitted], machineside},
	"note":            {of[Note], desk},
	"inspected":       {of[Inspected], anywhere},
	"snag.explained":  {of[SnagExplained], anywhere},
	"told":            {of[Told], anywhere},
	"stopped":         {of[Stopped], anywhere},
	"stop.lifted":     {of[StopLifted], anywhere},
	"left":            {of[Left], anywhere},
	"took-over":       {of[TookOver], machineside},
	"job.given":       {of[JobGiven], desk},
	"job.called-off":  {of[JobCalledOff], desk},
	"paused":          {of[Paused], anywhere},
	"resumed":         {of[Resumed], anywhere},
	"signed-off":      {of[SignedOff], anywhere},
	"withdrawn":       {of[Withdrawn], desk},
}

// Says names a fact in a few words.
func Says(f *Fact, n named.Names) string {
	if b, is := f.Of.(body); is {
		return b.says(n)
	}
	return strings.ReplaceAll(f.Kind, ".", " ")
}

// Subject is what a fact about a rung speaks of; empty of any other fact.
func Subject(f *Fact) string {
	if b, is := f.Of.(about); is {
		return b.subject()
	}
	return ""
}

// FromADesk tells whether an office may record such a fact: who goes, what a caller
// says, and what it takes back of its own. What happens at a machine is recorded by
// who is there.
func FromADesk(kind string) bool { return kinds[kind].where == desk }

// Came are those whom a fact puts at the machine: who says so, or records what is
// only done there, and who works along with them. There is nobody for a word from
// afar, and for what an office records.
func (c Company) Came(f *Fact) []string {
	who := []string{f.By}
	switch b := f.Of.(type) {
	case *PersonHere:
		if b.Person != f.By {
			who = append(who, b.Person)
		}
	case *TestResult:
		if b.Evidence == "told" || b.Outcome == named.NotDone {
			return nil
		}
	default:
		if kinds[f.Kind].where != machineside || f.Of == nil {
			return nil
		}
	}
	return slices.DeleteFunc(who, func(p string) bool { return c.Office != nil && c.Office(p) })
}

// Kinds are the types of the bodies, by the kinds of event.
func Kinds() map[string]reflect.Type {
	out := map[string]reflect.Type{}
	for name, k := range kinds {
		out[name] = reflect.TypeOf(k.new()).Elem()
	}
	return out
}
