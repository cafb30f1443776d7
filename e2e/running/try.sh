#!/usr/bin/env bash
# Tries docs/running.md word by word: every block of it, in its order, in an empty
# Debian; then a company at work in a browser through the proxy; then the backup and
# the upgrade. It needs root, debootstrap, Debian's packages and Chromium.
#
#   e2e/running/try.sh [FOLDER]      FOLDER.base is the empty Debian, made once
set -euo pipefail
cd "$(dirname "$0")/../.."

root=${1:-/tmp/evensteps-running}
host=service.example
fail() { echo "running: $*" >&2; exit 1; }
[ "$(id -u)" -eq 0 ] || fail "run it as root: it makes a Debian of its own"
command -v debootstrap >/dev/null || fail "install debootstrap"

echo "== an empty Debian"
[ -e "$root.base/etc/debian_version" ] || debootstrap --variant=minbase bookworm "$root.base" >/dev/null
umount -l "$root/proc" "$root/dev" 2>/dev/null || true
mountpoint -q "$root/dev" && fail "$root/dev is still in use"
rm -rf --one-file-system "$root"
cp -a "$root.base" "$root"
mountpoint -q "$root/proc" || mount -t proc proc "$root/proc"
mountpoint -q "$root/dev" || mount --rbind /dev "$root/dev"
cp /etc/resolv.conf "$root/etc/resolv.conf"
for f in /etc/apt/apt.conf.d/*proxy*; do [ -e "$f" ] && cp "$f" "$root/etc/apt/apt.conf.d/"; done

ended() {
  in_debian 'systemctl stop evensteps@8081 evensteps@8082 nginx postgresql' >/dev/null 2>&1 || true
  umount -l "$root/proc" "$root/dev" 2>/dev/null || true
}
trap ended EXIT

# No systemd runs in a folder: this stands for it. It reads the unit as it is
# written, its user, environment and command, and does nothing that is not there.
cat > "$root/usr/local/bin/systemctl" <<'SHIM'
#!/bin/bash
set -euo pipefail
verb=$1; shift
[ "$verb" = daemon-reload ] && exit 0
if [ "$verb" = enable ]; then [ "$1" = --now ] && shift; verb=start; fi
for unit in "$@"; do
  case $unit in
    postgresql)
      case $verb in start|restart) pg_ctlcluster 15 main "$verb" 2>/dev/null || pg_ctlcluster 15 main start || true ;; stop) pg_ctlcluster 15 main stop -m fast || true ;; esac ;;
    nginx)
      [ "$verb" = stop ] || [ "$verb" = restart ] && { nginx -s quit 2>/dev/null || true; sleep 1; }
      [ "$verb" = stop ] || nginx ;;
    *@*)
      port=${unit#*@}; port=${port%.service}; file=/etc/systemd/system/${unit%%@*}@.service; pid=/run/${unit%%@*}-$port.pid
      if [ "$verb" = stop ] || [ "$verb" = restart ]; then
        if [ -e "$pid" ]; then kill "$(cat "$pid")" 2>/dev/null || true; for _ in $(seq 100); do kill -0 "$(cat "$pid")" 2>/dev/null || break; sleep 0.1; done; rm -f "$pid"; fi
      fi
      [ "$verb" = stop ] && continue
      args=(); while IFS= read -r line; do args+=("${line//%i/$port}"); done < <(sed -n 's/^Environment=//p' "$file")
      user=$(sed -n 's/^User=//p' "$file"); command=$(sed -n 's/^ExecStart=//p' "$file")
      # shellcheck disable=SC2086
      env -i "${args[@]}" setpriv --reuid "$user" --regid "$user" --init-groups $command >>"/var/log/evensteps-$port.log" 2>&1 &
      echo $! > "$pid" ;;
    *) echo "systemctl stand-in: what is $unit?" >&2; exit 1 ;;
  esac
done
SHIM
chmod 0755 "$root/usr/local/bin/systemctl"
printf '#!/bin/sh\nexit 101\n' > "$root/usr/sbin/policy-rc.d" && chmod 0755 "$root/usr/sbin/policy-rc.d"
in_debian() { chroot "$root" /usr/bin/env -i PATH=/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin HOME=/root LANG=C.UTF-8 LC_ALL=C.UTF-8 DEBIAN_FRONTEND=noninteractive COMPANY_HOST="$host" /bin/bash -euo pipefail -c "$1"; }

# The blocks of the page: those that are marked stand alone, all others are one script.
block() { awk -v want="$1" '/^```sh/ {mark = $2; on = (mark == want)} /^```$/ {on = 0} on && !/^```/' docs/running.md; }

install -m 0755 bin/evensteps "$root/tmp/evensteps"
echo "== docs/running.md, from its beginning"
in_debian "$(block '')" > "$root/tmp/running.log" 2>&1 || { tail -30 "$root/tmp/running.log" >&2; fail "a block of docs/running.md failed"; }
if command -v systemd-analyze >/dev/null; then
  mkdir -p "$root/tmp/units"
  sed 's#/usr/local/bin/evensteps#/bin/true#' "$root/etc/systemd/system/evensteps@.service" > "$root/tmp/units/evensteps@8081.service"
  systemd-analyze verify "$root/tmp/units/evensteps@8081.service" 2>&1 | grep -v "^$" | grep "evensteps@" && fail "the unit has a fault"
fi

echo "== a company at work, in a browser through the proxy"
code=$(grep -oE '([a-z0-9]{4}-){3}[a-z0-9]{4}' "$root/etc/evensteps/first-code.txt")
go run ./e2e/running "https://127.0.0.1" "$host" "$code" "$root/srv/sites.csv" "$root/srv/machines.csv" begin

echo "== the backup, put back"
in_debian "$(block '' | sed -n '1,2p'); /etc/cron.daily/evensteps; runuser -u evensteps -- psql -q -h /var/run/postgresql -d evensteps -c 'drop table today_rows cascade' ; $(block restore)" >> "$root/tmp/running.log" 2>&1 || { tail -30 "$root/tmp/running.log" >&2; fail "the restore failed"; }
go run ./e2e/running "https://127.0.0.1" "$host" "" "" "" after

echo "== the upgrade"
in_debian "$(block '' | sed -n '1,2p'); $(block upgrade)" >> "$root/tmp/running.log" 2>&1 || { tail -30 "$root/tmp/running.log" >&2; fail "the upgrade failed"; }
go run ./e2e/running "https://127.0.0.1" "$host" "" "" "" after
echo "== docs/running.md is true"
