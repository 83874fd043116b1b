#!/usr/bin/env python3
"""Talks to wise-sieve-feed as a stranger would: in another language, by its document alone.
feed.py FEED CLI DOCUMENT"""
import json, os, re, signal, socket, subprocess, sys, tempfile, time

FEED, CLI, DOCUMENT = sys.argv[1:4]
SESSION = "2026-03-18"


def rows_of_day(symbol, base):
    """Ten minutes of trade, one without a bar."""
    for minute in [m for m in range(10) if m != 4]:
        price = base + 0.01 * (minute * 7 % 5)
        yield f"{SESSION}T10:{minute:02}Z", price, price + 0.05, price - 0.05, price + 0.02, 100 + minute


def write_dataset(folder):
    os.makedirs(f"{folder}/bars/daily")
    os.makedirs(f"{folder}/bars/minute")
    with open(f"{folder}/dataset.toml", "w") as file:
        file.write('name = "Feed test"\nversion = "1"\ncurrency = "VEL"\n')
    for symbol, base in (("KELP", 10.0), ("VRRA", 20.0)):
        with open(f"{folder}/bars/daily/{symbol}.csv", "w") as file:
            file.write("date,open,high,low,close,volume\n")
            for day in ("2026-03-16", "2026-03-17", SESSION):
                file.write(f"{day},{base},{base + 1},{base - 1},{base},1000\n")
        with open(f"{folder}/bars/minute/{symbol}.csv", "w") as file:
            file.write("time,open,high,low,close,volume\n")
            for row in rows_of_day(symbol, base):
                file.write(",".join(str(cell) for cell in row) + "\n")


class Feed:
    """A feed that runs; `lines()` connects anew."""

    def __init__(self, market, *options):
        self.process = subprocess.Popen([FEED, "--market", market, *options], stdout=subprocess.PIPE, text=True)
        first = self.process.stdout.readline().split()
        assert first[:2] == ["listening", "on"], first
        self.address = (first[2], int(first[3]))

    def connect(self):
        link = socket.create_connection(self.address, timeout=20)
        return link, link.makefile("r", encoding="utf-8", newline="\n")

    def stop(self):
        self.process.send_signal(signal.SIGTERM)
        assert self.process.wait(10) == 0, "a feed that is told to ends with 0"


def say(link, **message):
    link.sendall((json.dumps(message) + "\n").encode())


def until(lines, kind):
    """The messages up to the first of a kind, that one included."""
    heard = []
    for line in lines:
        heard.append(json.loads(line))
        if heard[-1]["type"] == kind:
            return heard
    raise AssertionError(f"the feed ended before {kind}")


def events(messages):
    return [m for m in messages if m["type"] in ("bar", "last", "end")]


def check_whole_session(market):
    feed = Feed(market, "--speed", "600", "--paused")
    link, lines = feed.connect()
    hello = until(lines, "hello")[-1]
    assert hello["session"] == SESSION and hello["market"] == "Feed test" and hello["paused"], hello
    say(link, type="go")
    heard = until(lines, "end")
    told = events(heard)
    assert [m["number"] for m in told] == list(range(1, len(told) + 1)), "every number once, in order"
    for symbol, base in (("KELP", 10.0), ("VRRA", 20.0)):
        bars = [(m["minute"], m["open"], m["high"], m["low"], m["close"], m["volume"])
                for m in told if m["type"] == "bar" and m["symbol"] == symbol]
        assert bars == list(rows_of_day(symbol, base)), bars  # figures to the last bit
    # Again, and the same comes in the same order; after a cut it goes on where it was.
    say(link, type="seek", to=f"{SESSION}T09:00:00Z")
    run = until(lines, "hello")[-1]["run"]
    assert run != hello["run"]
    first = until(lines, "bar")
    link.close()
    link, lines = feed.connect()
    until(lines, "hello")
    say(link, type="resume", run=run, after=events(first)[-1]["number"])
    again = events(first) + events(until(lines, "end"))
    assert again == told
    # Of one symbol alone; a second client at another pace.
    say(link, type="want", symbols=["KELP"])
    say(link, type="resume", run=run, after=0)
    assert {m["symbol"] for m in events(until(lines, "end"))[:-1]} == {"KELP"}
    feed.stop()


def check_hostile(market):
    feed = Feed(market, "--paused")
    quiet, quiet_lines = feed.connect()
    until(quiet_lines, "hello")
    flood = socket.create_connection(feed.address, timeout=20)
    try:
        for _ in range(40):
            flood.sendall(b"x" * (1 << 20))  # a line without an end
        flood.sendall(b"\n" + b"nonsense\n" * 100_000)
        while flood.recv(1 << 16):
            pass
        raise AssertionError("who says nonsense for ever is sent away")
    except (ConnectionError, BrokenPipeError):
        pass
    for bytes_sent in (b"\xff\xfe\n", b"{\"type\":", b"[" * 50_000 + b"\n", b""):
        link = socket.create_connection(feed.address, timeout=20)
        link.sendall(bytes_sent)
        link.close()
    say(quiet, type="speed", speed=42)
    deadline = time.time() + 10
    while until(quiet_lines, "clock")[-1]["speed"] != 42:
        assert time.time() < deadline, "the others are still served"
    with open(f"/proc/{feed.process.pid}/status") as status:
        memory = int(re.search(r"RssAnon:\s+(\d+)", status.read()).group(1))
    assert memory < 100_000 or "SANITIZE" in os.environ, f"{memory} KB"
    feed.stop()


def check_start(market):
    """What is wrong is told at the start."""
    for options, status, words in (
        (["--session", "2026-03-17"], 1, "no minutes of 2026-03-17"),
        (["--session", "soon"], 2, "not a day"),
        (["--speed", "601"], 2, "601"),
        (["--address", "0.0.0.0"], 1, "other machines"),
        (["--address", "house"], 1, "no address"),
    ):
        ended = subprocess.run([FEED, "--market", market, *options], capture_output=True, text=True, timeout=60)
        told = ended.stderr + ended.stdout
        assert ended.returncode == status and words in told, (options, ended.returncode, told)
    ended = subprocess.run([FEED, "--market", market + "/none"], capture_output=True, text=True, timeout=60)
    assert ended.returncode == 1 and ended.stderr, ended


def check_document(market):
    """The client that the document shows runs as it stands there."""
    with open(DOCUMENT, encoding="utf-8") as file:
        client = re.search(r"```python\n(.*?)```", file.read(), re.S).group(1)
    assert len(client.strip().splitlines()) <= 10, "a client of ten lines"
    feed = Feed(market, "--speed", "600")
    ended = subprocess.run([sys.executable, "-c", client, *map(str, feed.address)],
                           capture_output=True, text=True, timeout=60)
    assert ended.returncode == 0, ended.stderr
    assert "KELP" in ended.stdout and "VRRA" in ended.stdout, ended.stdout
    feed.stop()


with tempfile.TemporaryDirectory() as folder:
    write_dataset(folder + "/dataset")
    subprocess.run([CLI, "intake", folder + "/dataset", "--market", folder + "/market"], check=True,
                   stdout=subprocess.DEVNULL)
    for check in (check_whole_session, check_hostile, check_start, check_document):
        check(folder + "/market")
        print(check.__name__, "passed")
