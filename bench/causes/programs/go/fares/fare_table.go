package fares

import (
	"database/sql"
	"errors"
	"fmt"
	"net"
	"os"
	"sync"
	"time"

	"skerrow.example/booking/util"
)

type Row struct{ Amount int }
type Table struct{ Rows map[int]*Row }

func (t *Table) Priced(zone int) int { return t.Rows[zone].Amount }

func Split(total, heads int) int { return total / heads }

func Nth(rows []int, n int) int { return rows[n] }

func Currency(v map[string]*string) string { return util.Must(v["currency"], "currency") }
func Season(v map[string]*string) string   { return util.Must(v["season"], "season") }

func Height(tide string) (int, error) {
	if tide != "high" {
		return 0, fmt.Errorf("no height for tide %q", tide)
	}
	return 4, nil
}

func Open(tide string) (int, error) {
	h, err := Height(tide)
	if err != nil {
		return 0, fmt.Errorf("open voyage %d: %w", time.Now().Unix(), err)
	}
	return h, nil
}

func Database() error {
	_, err := net.DialTimeout("tcp", "127.0.0.1:5432", time.Second)
	if err != nil {
		return fmt.Errorf("load fares: %w", err)
	}
	return sql.ErrNoRows
}

func Lookup() error {
	_, err := net.Dial("tcp", "fares-db-1.skerrow.invalid:5432")
	return err
}

func Manifest(path string) error {
	_, err := os.ReadFile(path)
	return err
}

type Counter struct{ N int }

func (c *Counter) Add()      { c.N++ }
func (c *Counter) Read() int { return c.N }

func Race() {
	c := &Counter{}
	var wg sync.WaitGroup
	wg.Add(2)
	go func() { defer wg.Done(); for i := 0; i < 1000; i++ { c.Add() } }()
	go func() { defer wg.Done(); for i := 0; i < 1000; i++ { _ = c.Read() } }()
	wg.Wait()
}

func Refund() error { return errors.New("refund refused: FARE-4012 already refunded") }

func Stuck() { ch := make(chan int); <-ch }
