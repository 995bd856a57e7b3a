pub mod fares {
    use std::collections::HashMap;
    pub struct FareTable {
        pub rows: HashMap<u32, u32>,
    }
    impl FareTable {
        pub fn priced(&self, zone: u32) -> u32 {
            *self.rows.get(&zone).unwrap()
        }
    }
    pub fn split(total: u32, heads: u32) -> u32 {
        total / heads
    }
    pub fn height(tide: &str) -> Result<u32, String> {
        if tide == "high" { Ok(4) } else { Err(format!("no height for {tide}")) }
    }
    pub fn currency(v: Option<&str>) -> String {
        crate::util::must(v, "currency")
    }
    pub fn season(v: Option<&str>) -> String {
        crate::util::must(v, "season")
    }
}
pub mod util {
    pub fn must(v: Option<&str>, name: &str) -> String {
        match v {
            Some(x) => x.to_string(),
            None => panic!("{name} is required"),
        }
    }
}
