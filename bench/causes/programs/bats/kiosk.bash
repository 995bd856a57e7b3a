pay() { grep -q "$1" /tmp/agent-$$/manifest.json; }
