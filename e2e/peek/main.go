package main

import (
	"context"
	"fmt"
	"os"
	"time"

	"evensteps/e2e/stage"
)

func main() {
	out := os.Args[1]
	s, err := stage.Set(context.Background())
	defer s.Strike()
	if err != nil {
		panic(err)
	}
	page, err := s.Page("/", 1280, 800)
	if err != nil {
		panic(err)
	}
	h := stage.Hands{Page: page.Timeout(5 * time.Minute)}
	shot := func(n string) {
		time.Sleep(300 * time.Millisecond)
		if err := stage.Shot(h.Page, out+"/"+n+".png"); err != nil {
			fmt.Println(err)
		}
	}
	defer func() {
		if v := recover(); v != nil {
			fmt.Println("FAILED", v)
			shot("failed")
		}
	}()
	h.As("jonna")
	h.Page.MustElement("article")
	shot("today")
	h.Touch("Open: Boat-yard canteen")
	h.Page.MustElementR("h1", "isolator")
	h.Until("Prove it dead")
	shot("prove-empty")
	h.Type("meter", "7")
	h.Type("before", "230")
	h.Type("L-N", "-41")
	time.Sleep(300 * time.Millisecond)
	shot("prove-ghost")
	h.Touch("Hands busy")
	time.Sleep(500 * time.Millisecond)
	shot("prove-hands")
	h.Touch("Ladder")
	time.Sleep(500 * time.Millisecond)
	shot("prove-after-hands")
	h.Type("again-L-N", "230")
	h.Type("L-PE", "0")
	h.Type("N-PE", "0")
	h.Type("after", "229")
	time.Sleep(400 * time.Millisecond)
	shot("prove-live")
	h.Page.MustReload()
	h.Page.MustElementR("h1", "Prove it dead")
	time.Sleep(600 * time.Millisecond)
	shot("prove-reload")
	h.Touch("Record it: not proven")
	time.Sleep(900 * time.Millisecond)
	shot("prove-recorded")
}
