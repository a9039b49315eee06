using Walkdown.Core.Acceptance;
using Walkdown.Core.Addressing;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Recording;

/// <summary>
/// The link by which a plate camera tells its recorder of each plate, as both sides were read: the camera sends to the recorder's fixed
/// address, ports are equal, each side has its login, and both know the camera by one identifier. Where one of these is not so, one side
/// stays red.
/// </summary>
public sealed record EventLink
{
    /// <summary>The row of a Card.</summary>
    public static readonly CheckId Row = new("plates.link");

    /// <summary>Figures of the limit set: how identifiers are made here.</summary>
    internal static readonly ImmutableArray<string> Figures =
    [
        "plates.id-length",
        "plates.role-start",
        "plates.role-entry",
        "plates.role-exit",
        "plates.role-other",
    ];

    /// <summary>What a camera may be for: entry, exit or other.</summary>
    public static readonly ImmutableArray<string> Roles = ["entry", "exit", "other"];

    /// <summary>What it is for.</summary>
    public required string Role { get; init; }

    /// <summary>That the camera has for itself; empty: none.</summary>
    public required string IdAtCamera { get; init; }

    /// <summary>That the recorder knows the camera by; empty: none.</summary>
    public required string IdAtRecorder { get; init; }

    /// <summary>Of a line of the row; null where it is not whole.</summary>
    public static EventLink? Of(FormLine line) =>
        line.Of("role")?.Word is { } role
            ? new()
            {
                Role = role,
                IdAtCamera = line.Of("id-camera")?.Word?.Trim() ?? "",
                IdAtRecorder = line.Of("id-recorder")?.Word?.Trim() ?? "",
            }
            : null;

    /// <summary>How identifiers are made here, by the limit set; null: its figures fit no identifier, or give two roles one code.</summary>
    public static IdentifierRule? RuleOf(Catalogue catalogue)
    {
        double Of(string figure) => catalogue.Figure("plates." + figure);
        var codes = Roles.Select(role => (Code: Of("role-" + role).ToString(CultureInfo.InvariantCulture), Role: role)).ToList();
        if (codes.DistinctBy(c => c.Code).Count() < codes.Count || !codes.All(c => c.Code.All(char.IsAsciiDigit)))
            return null;
        var (length, start) = (Of("id-length"), Of("role-start"));
        if (length != Math.Floor(length) || start != Math.Floor(start))
            return null;
        var rule = new IdentifierRule((int)length, (int)start, codes.ToDictionary(c => c.Code, c => c.Role));
        return rule.IsSound ? rule : null;
    }

    /// <summary>Of the row: out with all that is wrong, the side that it stands on first; in where both sides show it.</summary>
    internal static Judged Judge(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (Of(line) is not { } link)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "role")));
        var camera = new List<Message>();
        var recorder = new List<Message>();
        var told = new List<Message>();
        var planned = c.Facts.Channels.Select(ch => ch.RecorderFacts?.Place.Address).FirstOrDefault(a => !string.IsNullOrEmpty(a));
        if (line.Of("server")?.Word?.Trim() is not { Length: > 0 } server)
            camera.Add(new("link.no-server"));
        else if (Ipv4Address.Read(server) is not { } sent)
            camera.Add(new("link.server-unread", Message.Said(server)));
        else if (Ipv4Address.Read(planned) is not { } fixedAt)
            told.Add(new("link.server-unplanned"));
        else if (sent != fixedAt)
            camera.Add(new("link.server-other", Message.Said(server), planned!));
        var (there, here) = (line.Of("port-camera")?.Number, line.Of("port-recorder")?.Number);
        if (there is null)
            camera.Add(new("link.no-port"));
        if (here is null)
            recorder.Add(new("link.no-port"));
        if (there is { } a && here is { } b && a != b)
            camera.Add(new("link.ports", Message.Number(a), Message.Number(b)));
        if (line.Of("login-camera")?.Word != "set")
            camera.Add(new("link.no-login"));
        if (line.Of("login-recorder")?.Word != "set")
            recorder.Add(new("link.no-login"));
        if (RuleOf(c.Catalogue) is not { } rule)
            return GeneralJudges.NotJudged(new Message("link.rule"));
        var found = rule.Check(
            [new(c.Facts.Place.Label, link.IdAtCamera, link.Role)],
            new Dictionary<string, string?> { [c.Facts.Place.Label] = link.IdAtRecorder.Length > 0 ? link.IdAtRecorder : null }
        ).Rows[0];
        foreach (var finding in found)
            (finding == IdentifierFinding.NotInOtherSystem ? recorder : camera).Add(Say(finding, link, rule));
        // Without one of its own the camera's side says nothing of the other's.
        if (link.IdAtCamera.Length == 0 && link.IdAtRecorder.Length == 0)
            recorder.Add(Say(IdentifierFinding.Missing, link, rule));
        if (line.Of("light-camera")?.Word != "green")
            camera.Add(new("link.red"));
        if (line.Of("light-recorder")?.Word != "green")
            recorder.Add(new("link.red"));
        var because = ImmutableArray.CreateBuilder<Message>();
        if (camera.Count > 0)
            because.Add(new("link.at-camera"));
        because.AddRange(camera);
        if (recorder.Count > 0)
            because.Add(new("link.at-recorder"));
        because.AddRange(recorder);
        var isOut = camera.Count + recorder.Count > 0;
        if (!isOut)
            because.Add(new("link.both"));
        because.AddRange(told);
        return new(isOut ? State.Out : State.In, null, null, because.ToImmutable());
    }

    /// <summary>A finding in words.</summary>
    /// <param name="finding">What is wrong.</param>
    /// <param name="link">Of which link.</param>
    /// <param name="rule">How identifiers are made here.</param>
    public static Message Say(IdentifierFinding finding, EventLink link, IdentifierRule rule) =>
        finding switch
        {
            IdentifierFinding.WrongLength => new("link.id-length", Message.Said(link.IdAtCamera), Message.Number(rule.Length)),
            IdentifierFinding.UnknownRoleCode or IdentifierFinding.RoleCodeOfAnotherKind => new(
                "link.id-role",
                Message.Said(link.IdAtCamera),
                Message.Number(rule.RoleStart),
                rule.RoleCodes.FirstOrDefault(r => r.Value == link.Role).Key ?? "?",
                "@field.plates.link.role." + link.Role
            ),
            IdentifierFinding.DiffersFromOtherSystem => new(
                "link.id-differs",
                Message.Said(link.IdAtCamera),
                Message.Said(link.IdAtRecorder)
            ),
            _ => new("link.id-" + Codes.Of(finding), Message.Said(link.IdAtCamera)),
        };
}
