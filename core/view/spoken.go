package view

import (
	"encoding/json"
	"reflect"
	"strings"

	"evensteps/core/english"
)

// typed are the fields, by their names in JSON, that hold ids, or what somebody
// wrote: they stay as they are.
var typed = map[string]bool{
	"id": true, "job": true, "move": true, "item": true, "energy": true, "event": true, "events": true, "lot": true, "wire": true, "line": true, "test": true, "goal": true, "snag": true,
	"fault": true, "kind": true, "key": true, "sha256": true, "words": true, "value": true, "was": true, "text": true, "by": true, "body": true, "photo_on": true, "terminal": true, "colour": true, "stripe": true,
}

var raw = reflect.TypeFor[json.RawMessage]()

// Speak puts all that is said in a view into the words of a region. out is a
// pointer; what people typed and ids stay.
func Speak(out any, region english.Region) {
	if region == "" || region == english.British {
		return // what the program and its library are written in
	}
	speak(reflect.ValueOf(out), region)
}

func speak(v reflect.Value, region english.Region) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			speak(v.Elem(), region)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			name, _, _ := strings.Cut(v.Type().Field(i).Tag.Get("json"), ",")
			if v.Type().Field(i).IsExported() && !typed[name] {
				speak(v.Field(i), region)
			}
		}
	case reflect.Slice:
		if v.Type() == raw {
			return
		}
		if v.CanSet() && v.Len() > 0 { // it may be the map's own
			own := reflect.MakeSlice(v.Type(), v.Len(), v.Len())
			reflect.Copy(own, v)
			v.Set(own)
		}
		for i := range v.Len() {
			speak(v.Index(i), region)
		}
	case reflect.String:
		if v.CanSet() {
			v.SetString(region.In(v.String()))
		}
	}
}
