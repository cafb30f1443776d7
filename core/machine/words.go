package machine

// The words of the format.

// The words that format 1 knows.
var (
	Kinds       = []string{"dryer", "range", "oven", "cooktop", "dishwasher", "microwave", "other"}
	Systems     = []string{"single-phase", "split-phase", "three-phase"}
	EnergyKinds = []string{"mains", "gas", "water", "charge", "heat", "spring", "weight"}
	Drives      = []string{"hex", "phillips", "pozidriv", "slotted", "torx", "torx-pin", "square", "robertson", "nut", "clip", "tab", "spring-ring", "cable-tie", "hose-clip", "wire-nut", "loose"}
	ItemTypes   = []string{"cover", "part", "connector", "belt", "pipe", "door", "seal", "drum", "bracket", "state"}
	Faces       = []string{"front", "rear", "left", "right", "top", "under", "inside"}
	PoseNames   = []string{"upright", "tilted", "on-back", "on-front", "on-left", "on-right"}
	Tickets     = []string{"gas", "high-voltage", "refrigerant", "live-testing"}
	HazardKinds = []string{"sharp-edges", "pinch", "spring", "heavy", "hot", "shock", "gas", "glass", "dust", "wet", "blind"}
)

// Quantities that a record can take, and verdicts that a reading can get.
var (
	Quantities = []string{"length", "turns", "angle", "count", "resistance", "voltage", "temperature", "pressure", "text", "photo"}
	Verdicts   = []string{"pass", "low", "high", "unsure", "open", "short"}
)

// Other is the fault that every map has: something that it does not know.
const Other = "other"
