use booking::fares::*;
use std::collections::HashMap;
fn n() -> u32 { std::process::id() }
#[test] fn family__fare_table_priced() { FareTable { rows: HashMap::new() }.priced(n()); }
#[test] fn group__fare_table_priced() { (1..2).for_each(|z| { FareTable { rows: HashMap::new() }.priced(z); }); }
#[test] fn split_one__fares_split() { split(n(), n() - n()); }
#[test] fn currency_of__fares_currency() { currency(None); }
#[test] fn season_of__fares_season() { season(None); }
#[test] fn ebb__fares_height() { height("ebb").unwrap(); }
#[test] fn ebb_returned__fares_height() -> Result<(), String> { height("ebb").map(|_| ()) }
#[test] fn total__bare_total() { assert_eq!(n(), 3); }
#[test] fn seats__bare_seats() { assert_eq!(n(), 4); }
#[test] fn open__expr_open() { assert!(height("ebb").is_ok()); }
#[test] fn database__refused_postgres() { std::net::TcpStream::connect("127.0.0.1:5432").unwrap(); }
#[test] fn lookup__dns() { std::net::TcpStream::connect("fares-db-1.skerrow.invalid:5432").unwrap(); }
#[test] fn manifest__file_manifest() { std::fs::read(format!("/tmp/agent-{}/manifest.json", n())).unwrap(); }
