"""The set-up: lock file, launchers, what the repository must not hold."""

import os
import re
import subprocess
from pathlib import Path

ROOT = Path(__file__).parents[1]


def test_the_lock_has_names_versions_and_hashes_only() -> None:
    text = (ROOT / "requirements.lock").read_text()
    assert "://" not in text
    for block in re.split(r"\n(?=\S)", text.strip()):
        assert re.match(r"[A-Za-z0-9._-]+==[\w.]+ \\\n", block), block[:60]
        assert "--hash=sha256:" in block


def test_the_lock_covers_what_is_asked_for() -> None:
    locked = set(re.findall(r"^([\w.-]+)==([\w.]+)", (ROOT / "requirements.lock").read_text(), re.MULTILINE))
    for line in (ROOT / "requirements.in").read_text().splitlines():
        name, version = line.split("==")
        assert (name.lower(), version) in {(n.lower(), v) for n, v in locked}


def test_shell_launchers_are_sound() -> None:
    for name in ("korbent", "test", ".ci/run", "tools/environment.sh"):
        path = ROOT / name
        subprocess.run(["sh", "-n", str(path)], check=True)
        if name != "tools/environment.sh":
            assert os.access(path, os.X_OK), name


def test_missing_libraries_are_named_for_those_who_are_not_root(tmp_path: Path) -> None:
    """With no library found and another user, the one line to run is printed and nothing starts."""
    script = (ROOT / "tools" / "environment.sh").read_text()
    script = script.replace("known=$(/sbin/ldconfig -p 2>/dev/null || true)", 'known=""').replace("$(id -u)", "1000")
    body = script.split("cmp -s")[0] + "need_libraries\necho started\n"
    (tmp_path / "s.sh").write_text(f'here="{tmp_path}"\n{body}')
    found = subprocess.run(["sh", str(tmp_path / "s.sh")], capture_output=True, text=True)
    assert found.returncode == 1
    assert "sudo apt-get install -y" in found.stderr
    assert "libegl1" in found.stderr
    assert "started" not in found.stdout
