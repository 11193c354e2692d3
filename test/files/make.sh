#!/bin/sh
# Makes the cut files of this folder with programs that are not ours (Debian: gnuplot-nox, pstoedit, potrace, python3-ezdxf).
set -e
cd "$(dirname "$0")"
work=$(mktemp -d)
for kind in hpgl dxf svg; do
  gnuplot -e "set samples 80; set parametric; unset key; set terminal $kind; set output '$work/gnuplot.$kind'; plot [0:2*pi] 3*cos(t),2*sin(t), cos(3*t), sin(2*t)"
done
# Its user scale has no corners of its own; with them it means the same on every machine. Its labels go: hp2xx draws them.
sed '/^LB/d; s/^SC0,10000,0,7500/IP0,0,10000,7500;&/' "$work/gnuplot.hpgl" > gnuplot.hpgl
sed '1,2d' "$work/gnuplot.dxf" > gnuplot.dxf
cp "$work/gnuplot.svg" gnuplot.svg
cat > "$work/drawing.ps" <<'PS'
%!PS-Adobe-3.0
%%BoundingBox: 0 0 400 400
newpath 50 50 moveto 200 50 lineto 250 120 250 200 150 220 curveto closepath stroke
newpath 150 150 40 0 300 arc stroke
gsave 300 200 translate 20 rotate 1.4 0.6 scale newpath 0 0 60 0 360 arc closepath stroke grestore
newpath 20 300 moveto 120 340 220 260 380 330 curveto stroke
showpage
PS
pstoedit -q -f dxf_s "$work/drawing.ps" pstoedit.dxf > "$work/log" 2>&1
pstoedit -q -f hpgl "$work/drawing.ps" pstoedit.hpgl > "$work/log" 2>&1
pstoedit -q -f plot-svg "$work/drawing.ps" pstoedit.svg > "$work/log" 2>&1
/usr/bin/python3 make.py .
/usr/bin/python3 -c "
print('P1 400 400')
for y in range(400):
    print(' '.join('1' if 60**2 < (x-200)**2 + (y-180)**2*1.4 < 150**2 or 20 < x < 60 and 330 < y < 390 else '0' for x in range(400)))
" > "$work/shape.pbm"
potrace -s -o "$work/potrace.svg" "$work/shape.pbm"
sed '/<metadata>/,/<\/metadata>/d' "$work/potrace.svg" > potrace.svg
rm -r "$work"
