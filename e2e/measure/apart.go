package main

import (
	"context"
	"syscall"

	"evensteps/e2e/stage"
)

// withoutServer starts the program again and again from the device, the server being
// gone: until Today stands there with its jobs.
func withoutServer(s *stage.Stage) {
	page, err := s.Page("/", 1280, 800)
	must(err)
	h := stage.Hands{Page: page.CancelTimeout()}
	h.As("jonna")
	h.Page.MustEval(`() => navigator.serviceWorker.ready.then(() => true)`)
	h.Page.MustElement("article")
	h.Page.MustEvalOnNewDocument(`(() => { const look = () => {
		if (document.querySelector("article")) window.stands = performance.now();
		else requestAnimationFrame(look);
	}; requestAnimationFrame(look); })()`)
	must(s.End(syscall.SIGKILL))
	var took []float64
	for range runs {
		h.Page.MustNavigate(s.At() + "/")
		h.Page.MustWait(`() => window.stands`)
		took = append(took, h.Page.MustEval(`() => window.stands`).Num())
	}
	report("Today again without the server", took)
	h.Page.MustClose()
	must(s.Start(context.Background()))
}

// together has one person touch and the other look at the same job: from the finger's
// lifting on the one page to the paint on the other.
func together(s *stage.Stage, job string) {
	hands := func(who string) stage.Hands {
		page, err := s.Page("/", 1280, 800)
		must(err)
		h := stage.Hands{Page: page.CancelTimeout()}
		h.As(who)
		h.Touch(job)
		h.Page.MustWait(`() => document.querySelector("h1")?.innerText.startsWith("Switch the wall")`)
		return h
	}
	one, other := hands("jonna"), hands("ilse")
	one.Says("Ilse Brandmo")
	one.Page.MustEval(`() => addEventListener("pointerup", () => { window.lifted = Date.now(); }, true)`)
	var took []float64
	for range runs {
		for _, words := range []string{"Done", "Undo"} {
			before := other.Title()
			other.Page.MustEval(`was => {
				window.painted = 0;
				const look = () => {
					if (document.querySelector("h1").innerText === was) return requestAnimationFrame(look);
					const channel = new MessageChannel(); // its message comes after the paint
					channel.port1.onmessage = () => { window.painted = Date.now(); };
					channel.port2.postMessage(0);
				};
				requestAnimationFrame(look);
			}`, before)
			one.Touch(words)
			other.Page.MustWait(`() => window.painted`)
			took = append(took, float64(other.Page.MustEval(`() => window.painted`).Int()-one.Page.MustEval(`() => window.lifted`).Int()))
		}
	}
	report("another's touch, painted", took)
	one.Page.MustClose()
	other.Page.MustClose()
}
