namespace Walkdown.StandIns.Plates;

/// <summary>A plate reader as it truly is.</summary>
public sealed record ReaderTruth
{
    public string Label { get; init; } = "";

    /// <summary>Seconds in which the same plate is not written down again.</summary>
    public double IntervalSeconds { get; init; } = 30;

    /// <summary>That time begins anew whenever the plate is seen, written down or not.</summary>
    public bool SinceLastSeen { get; init; }

    /// <summary>Of the lens above the plate, metres.</summary>
    public double AboveMetres { get; init; } = 0.9;

    /// <summary>Along the lane to where it reads.</summary>
    public double AheadMetres { get; init; } = 7;

    /// <summary>Across to the lane.</summary>
    public double AsideMetres { get; init; } = 2;
    public int PixelsWide { get; init; } = 1920;
    public double FieldDeg { get; init; } = 30;
    public double PlateMetres { get; init; } = 0.52;

    /// <summary>Milliseconds by day.</summary>
    public double ExposureMs { get; init; } = 1;

    /// <summary>Milliseconds by night.</summary>
    public double NightExposureMs { get; init; } = 1;
    public double FramesPerSecond { get; init; } = 25;
    public double ZoneMetres { get; init; } = 3;

    /// <summary>The blue field at the end of a plate is read as this.</summary>
    public string? Emblem { get; init; }

    /// <summary>Letters on lorries are read, too: so often for each pass.</summary>
    public double Lettering { get; init; }

    /// <summary>Others drive by: so often for each pass.</summary>
    public double Others { get; init; } = 0.3;

    /// <summary>What is planted, in words.</summary>
    public string? Note { get; init; }

    /// <summary>As it should be, at the same place.</summary>
    public ReaderTruth Right() =>
        this with
        {
            IntervalSeconds = 30,
            SinceLastSeen = false,
            AsideMetres = Math.Min(AsideMetres, 2),
            FieldDeg = Math.Min(FieldDeg, 30),
            ExposureMs = Math.Min(ExposureMs, 1),
            NightExposureMs = Math.Min(NightExposureMs, 1),
            Emblem = null,
            Lettering = 0,
            Note = null,
        };
}

/// <summary>Somebody drives by.</summary>
/// <param name="Plate">Of the vehicle.</param>
/// <param name="Kmh">How fast.</param>
/// <param name="SecondsAgo">Before now.</param>
public sealed record PanelPass(string Plate, double Kmh = 20, double SecondsAgo = 0);

/// <summary>A simulated plate reader: reads what drives by as its place and its setting let it, and writes it down by its same-plate rule.
/// </summary>
/// <param name="truth">As it is.</param>
/// <param name="seed">Whose luck it has.</param>
public sealed class PlateReader(ReaderTruth truth, int seed)
{
    /// <summary>What is taken for what, by a plate that is not clear.</summary>
    private static readonly (char Own, char Read)[] Alike = [('8', 'B'), ('0', 'D'), ('1', 'I'), ('5', 'S'), ('2', 'Z'), ('6', 'G')];

    private readonly Lock _lock = new();
    private readonly Random _luck = new(seed);
    private readonly List<(DateTimeOffset At, string Text)> _written = [];
    private readonly Dictionary<string, (DateTimeOffset Seen, DateTimeOffset Written)> _known = [];
    private ReaderTruth _truth = truth;

    public ReaderTruth Truth
    {
        get
        {
            lock (_lock)
                return _truth;
        }
    }

    /// <summary>What it wrote down, by our clock.</summary>
    public IReadOnlyList<(DateTimeOffset At, string Text)> Written()
    {
        lock (_lock)
            return [.. _written];
    }

    /// <summary>Puts it right; of what it wrote down before nothing is left.</summary>
    public void Mend()
    {
        lock (_lock)
        {
            _truth = _truth.Right();
            _written.Clear();
            _known.Clear();
        }
    }

    /// <summary>Vehicles pass, in order of time, at moments that the reader has not passed yet.</summary>
    public void Pass(IEnumerable<PanelPass> passes, DateTimeOffset now, bool isDark)
    {
        lock (_lock)
        {
            foreach (var pass in passes.OrderByDescending(p => p.SecondsAgo))
            {
                var at = now.AddSeconds(-pass.SecondsAgo);
                if (Read(pass, isDark) is { } text)
                    Write(text, at);
                if (_luck.NextDouble() < _truth.Others)
                    Write(
                        $"{_luck.Next(10, 27)}{"DCKWL"[_luck.Next(5)]}{_luck.Next(1000, 60000)}",
                        at.AddSeconds(-3 - 5 * _luck.NextDouble())
                    );
                if (_luck.NextDouble() < _truth.Lettering)
                    Write("FERRYFISH", at.AddSeconds(-2 - 3 * _luck.NextDouble()));
            }
            _written.Sort();
        }
    }

    private void Write(string text, DateTimeOffset at)
    {
        var isKnown = _known.TryGetValue(text, out var before);
        var since = at - (_truth.SinceLastSeen ? before.Seen : before.Written);
        var isNew = !isKnown || since.TotalSeconds >= _truth.IntervalSeconds;
        _known[text] = (at, isNew ? at : before.Written);
        if (isNew)
            _written.Add((at, text));
    }

    /// <summary>What is read of a pass: each picture of it shows the plate or does not, and the best one is believed.</summary>
    private string? Read(PanelPass pass, bool isDark)
    {
        var t = _truth;
        var slant = Math.Sqrt(t.AheadMetres * t.AheadMetres + t.AsideMetres * t.AsideMetres + t.AboveMetres * t.AboveMetres);
        var perMetre = t.PixelsWide / 2.0 / Math.Tan(t.FieldDeg * Math.PI / 360) / slant;
        var pixels = perMetre * t.PlateMetres * t.AheadMetres / double.Hypot(t.AheadMetres, t.AsideMetres);
        var sine = double.Hypot(t.AsideMetres, t.AboveMetres) / slant;
        var blur = perMetre * pass.Kmh / 3.6 * sine * (isDark ? t.NightExposureMs : t.ExposureMs) / 1000;
        // 1 where all is well, falling once a limit of the trade is passed.
        static double Falls(double over, double width) => 1 / (1 + Math.Exp((over - width) / (width / 4)));
        var clear = Falls(100 / pixels, 1.1) * Falls(blur / 2, 1.6) * Falls(Math.Asin(sine) * 180 / Math.PI / 30, 1.25);
        var pictures = Math.Max(0, (int)(t.ZoneMetres / (pass.Kmh / 3.6) * t.FramesPerSecond));
        var best = 1 - Math.Pow(1 - clear, Math.Min(pictures, 3));
        if (_luck.NextDouble() > 0.4 + 0.6 * best)
            return null;
        var text = string.Concat(pass.Plate.Where(char.IsLetterOrDigit)).ToUpperInvariant();
        var wrong = _luck.NextDouble() > best;
        if (wrong && text.Length > 0)
        {
            var at = Enumerable.Range(0, text.Length).Where(i => Array.Exists(Alike, a => a.Own == text[i])).ToList();
            var i = at.Count > 0 ? at[_luck.Next(at.Count)] : _luck.Next(text.Length);
            var read = Array.Find(Alike, a => a.Own == text[i]).Read;
            text = text[..i] + (read == default ? "" : read.ToString()) + text[(i + 1)..];
        }
        return t.Emblem is { } emblem && _luck.NextDouble() < 0.3 ? emblem + text : text;
    }
}
