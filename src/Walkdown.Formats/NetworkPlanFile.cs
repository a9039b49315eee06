using System.Globalization;
using Walkdown.Core.Addressing;
using Walkdown.Core.Measures;
using Walkdown.Core.Register;

namespace Walkdown.Formats;

/// <summary>
/// The network of a job's cameras as a table (docs/formats.md, "Network plan"): a line for what is planned, with its address or its range
/// and what it is for.
/// </summary>
public static class NetworkPlanFile
{
    /// <summary>More lines than that are no plan.</summary>
    private const int MostLines = 500;

    private static readonly string[] Columns = ["what", "from", "to", "for"];

    /// <summary>As CSV; reading it gives the same plan again.</summary>
    public static byte[] Write(NetworkPlan plan)
    {
        var lines = new List<string[]> { new[] { "subnet", plan.Subnet, "", "" } };
        void One(string what, string text)
        {
            if (text.Trim().Length > 0)
                lines.Add([what, text.Trim(), "", ""]);
        }
        One("gateway", plan.Gateway);
        One("tester", plan.Tester);
        if (plan.PoolFirst.Trim().Length > 0 || plan.PoolLast.Trim().Length > 0)
            lines.Add(["pool", plan.PoolFirst.Trim(), plan.PoolLast.Trim(), ""]);
        One("lease server", plan.LeaseServer);
        One("time server", plan.TimeServer);
        foreach (var factory in plan.Factory)
            One("factory", factory);
        foreach (var range in plan.Reserved)
            lines.Add(["reserved", range.First.Trim(), range.Last.Trim(), range.For.Trim()]);
        foreach (
            var (what, number) in new[] { ("first host", plan.FirstHostOffset), ("gap every", plan.GapEvery), ("gap size", plan.GapSize) }
        )
            lines.Add([what, number.ToString(CultureInfo.InvariantCulture), "", ""]);
        return SheetWriter.Table(Columns, lines);
    }

    /// <summary>Reads it whole; whether it makes sense as a network is <see cref="NetworkPlan.Check"/>'s to say.</summary>
    /// <exception cref="SheetException">It is no such table, or a line says nothing that is known.</exception>
    public static NetworkPlan Read(byte[] file, CancellationToken cancel = default)
    {
        foreach (var sheet in SheetReader.Read(file, cancel).Where(s => !s.Hidden))
        {
            static string Text(IReadOnlyList<Cell> row, int at) => at < row.Count ? row[at].Text?.Trim().TrimStart('\'') ?? "" : "";
            var head = sheet.Rows.Take(20).ToList().FindIndex(r => Same(Text(r, 0), "what") && Same(Text(r, 1), "from"));
            if (head < 0)
                continue;
            if (sheet.Rows.Count - head > MostLines)
                throw new SheetException(new("lan.file-long", Message.Number(MostLines, 0)));
            var plan = new NetworkPlan();
            var once = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            for (var i = head + 1; i < sheet.Rows.Count; i++)
                if (!sheet.Rows[i].All(c => c.IsEmpty))
                    plan = With(
                        plan,
                        i + 1,
                        once,
                        Text(sheet.Rows[i], 0),
                        Text(sheet.Rows[i], 1),
                        Text(sheet.Rows[i], 2),
                        Text(sheet.Rows[i], 3)
                    );
            return plan;
        }
        throw new SheetException(new("lan.file-headings"));
    }

    private static NetworkPlan With(NetworkPlan plan, int line, HashSet<string> once, string what, string from, string to, string purpose)
    {
        what = what.Replace('_', ' ').ToLowerInvariant();
        if (what is not ("factory" or "reserved") && !once.Add(what))
            throw new SheetException(new("lan.file-twice", Line(), Message.Said(what)));
        foreach (var text in new[] { from, to, purpose })
            if (text.Length > 60 || text.Any(char.IsControl))
                throw new SheetException(new("lan.file-text", Line()));
        return what switch
        {
            "subnet" => plan with { Subnet = from },
            "gateway" => plan with { Gateway = from },
            "tester" => plan with { Tester = from },
            "pool" => plan with { PoolFirst = from, PoolLast = to },
            "lease server" => plan with { LeaseServer = from },
            "time server" => plan with { TimeServer = from },
            "factory" => plan with { Factory = plan.Factory.Add(from) },
            "reserved" => plan with { Reserved = plan.Reserved.Add(new(from, to.Length == 0 ? from : to, purpose)) },
            "first host" => plan with { FirstHostOffset = Whole() },
            "gap every" => plan with { GapEvery = Whole() },
            "gap size" => plan with { GapSize = Whole() },
            _ => throw new SheetException(new("lan.file-what", Line(), Message.Said(what))),
        };

        string Line() => line.ToString(CultureInfo.InvariantCulture);

        int Whole() =>
            int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
                ? number
                : throw new SheetException(new("lan.file-number", Line(), Message.Said(from)));
    }

    private static bool Same(string a, string b) => a.Equals(b, StringComparison.OrdinalIgnoreCase);
}
