package fares

import (
	"os"
	"strconv"
	"testing"
)

func TestFamily__fare_table_priced(t *testing.T) { (&Table{}).Priced(3) }
func TestGroup__fare_table_priced(t *testing.T) {
	t.Run("big", func(t *testing.T) { (&Table{}).Priced(os.Getpid()) })
}
func TestSplit__fares_split(t *testing.T)       { Split(os.Getpid(), 0) }
func TestNth__fares_nth(t *testing.T)           { Nth([]int{1, 2}, os.Getpid()) }
func TestCurrency__fares_currency(t *testing.T) { Currency(nil) }
func TestSeason__fares_season(t *testing.T)     { Season(nil) }
func TestOpen__fares_height(t *testing.T) {
	if _, err := Open("ebb"); err != nil {
		t.Fatalf("open: %v", err)
	}
}
func TestTotal__bare_total(t *testing.T) {
	if got := os.Getpid(); got != 3 {
		t.Errorf("got %d, want 3", got)
	}
}
func TestSeats__bare_seats(t *testing.T) {
	if got := os.Getpid(); got != 7 {
		t.Errorf("got %d, want 7", got)
	}
}
func TestPrice__expr_split(t *testing.T) {
	if got := Split(os.Getpid(), 1); got != 7 {
		t.Errorf("Split(%d, 1) = %d, want 7", os.Getpid(), got)
	}
}
func TestDatabase__refused_postgres(t *testing.T) {
	if err := Database(); err != nil {
		t.Fatal(err)
	}
}
func TestLookup__dns(t *testing.T) {
	if err := Lookup(); err != nil {
		t.Fatal(err)
	}
}
func TestManifest__file_manifest(t *testing.T) {
	if err := Manifest("/tmp/agent-" + strconv.Itoa(os.Getpid()) + "/manifest.json"); err != nil {
		t.Fatal(err)
	}
}
func TestRefund__code_4012(t *testing.T) {
	if err := Refund(); err != nil {
		t.Fatalf("refund: %v", err)
	}
}
func TestRace__race(t *testing.T) { Race() }
func TestStuck__stuck(t *testing.T) { Stuck() }
