load kiosk
@test "pays__pay" { pay 12; }
@test "pays again__pay" { pay 13; }
@test "status__bare_status" { run false; [ "$status" -eq 0 ]; }
@test "tool__missing_tool" { skerrow-printer --now; }
