using System.Collections.Immutable;
using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Server.Shared;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary>Looks at a record in a process of its own, and says what it is.</summary>
internal static class RecordCheckApart
{
    /// <summary>The verdict on a file; one that takes more time or memory than any record does is said to, and not looked into
    /// further.</summary>
    /// <param name="key">Whole fingerprint; null: any.</param>
    public static async Task<RecordVerdict> Of(string file, string? key, IProgress<(int Done, int Of)>? progress, CancellationToken cancel)
    {
        var bytes = new FileInfo(file).Length;
        // A record of a large job is held a few times over while it is read; a small file has no reason to be.
        var memory = Math.Min(1_200L << 20, (128L << 20) + 8 * bytes);
        var work = TimeSpan.FromSeconds(1.5 + bytes / 5e6);
        var outcome = await Apart.Run(
            ["check-record", file, key ?? "-"],
            work,
            work * 8 + TimeSpan.FromSeconds(20),
            memory,
            line =>
            {
                if (line.Split('/') is [var done, var of] && int.TryParse(done, out var d) && int.TryParse(of, out var o))
                    progress?.Report((d, o));
            },
            cancel
        );
        return outcome.Exit == 0 && Stored.Read<RecordVerdict>(System.Text.Encoding.UTF8.GetString(outcome.Output)) is { } verdict
            ? verdict
            : RecordVerdict.Bare("", SealOutcome.Unreadable, ApartWords.TooMuch);
    }
}

/// <summary><c>verify-record FILE</c>, <c>key backup FILE</c> and <c>key restore FILE</c>: on the command line, without a server.</summary>
internal static class RecordCommands
{
    /// <summary>0: what was sealed, by the key that was given. 1: not. 2: it could not be looked at. 3: what somebody sealed, by a key that
    /// nobody gave.</summary>
    public static async Task<int> Run(string[] args)
    {
        try
        {
            return args[0] switch
            {
                "key" => Key(args),
                "check-record" => CheckHere(args),
                "draw-plan" => DrawHere(args),
                _ => await Verify(args),
            };
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
        {
            return Say(problem.Message);
        }
    }

    /// <summary>The check itself, in the process that is there for it: the verdict as JSON.</summary>
    private static int CheckHere(string[] args)
    {
        using var file = File.OpenRead(args[1]);
        var last = 0L;
        var verdict = RecordCheck.Of(
            file,
            args[2] == "-" ? null : args[2],
            new Heard(p =>
            {
                if (Environment.TickCount64 - last < 100)
                    return;
                last = Environment.TickCount64;
                Console.Error.WriteLine($"{p.Done}/{p.Of}");
            })
        );
        using var output = Console.OpenStandardOutput();
        // Of a pack with many files, those that are as they were need no line each.
        var told = verdict
            .Parts.Where(p => p.State != PartState.Untouched)
            .Take(500)
            .Concat(verdict.Parts.Where(p => p.State == PartState.Untouched).Take(2000))
            .ToImmutableArray();
        output.Write(System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(verdict with { Parts = told }, Core.CoreJson.Options));
        return 0;
    }

    private sealed class Heard(Action<(int Done, int Of)> hear) : IProgress<(int Done, int Of)>
    {
        public void Report((int Done, int Of) value) => hear(value);
    }

    /// <summary>Draws a site plan pale, as the report has it: JPEG to the output, nothing where it cannot be drawn.</summary>
    private static int DrawHere(string[] args)
    {
        if (PlanPicture.Of(File.ReadAllBytes(args[1]), args[2]) is not { } picture)
            return 1;
        using var output = Console.OpenStandardOutput();
        output.Write(picture);
        return 0;
    }

    private static async Task<int> Verify(string[] args)
    {
        if (args.Length < 2 || args[1].StartsWith("--", StringComparison.Ordinal))
            return Say("Say which file: verify-record FILE [--key FINGERPRINT or PEM file]");
        if (!File.Exists(args[1]))
            return Say($"There is no file {args[1]}.");
        var trusted = Option(args, "--key");
        if (args.Contains("--key") && string.IsNullOrWhiteSpace(trusted))
            return Say("Say which key: --key with its whole fingerprint, or a PEM file of it.");
        if (trusted is not null && File.Exists(trusted))
        {
            var pem = new FileInfo(trusted).Length < 10_000 ? File.ReadAllText(trusted) : "";
            if (!System.Security.Cryptography.PemEncoding.TryFind(pem, out var fields) || !pem[fields.Label].SequenceEqual("PUBLIC KEY"))
                return Say($"{trusted} is no public key.");
            trusted = SealKey.FingerprintOf(Convert.FromBase64String(pem[fields.Base64Data]));
        }
        else if (trusted is { } typed && (trusted = RecordCheck.WholeKey(typed)) is null)
            return Say(new Texts("en")["verify.key-whole"]);
        var texts = new Texts("en");
        var verdict = await RecordCheckApart.Of(args[1], trusted, null, CancellationToken.None);
        Console.WriteLine(texts.Say(verdict.Why!));
        void Line(string name, string? value)
        {
            if (!string.IsNullOrEmpty(value))
                Console.WriteLine($"{name, -12}{value}");
        }

        Line("Job", verdict.Job + (verdict.Of is null ? "" : $", {verdict.Of}") + (verdict.Simulated ? " (simulated site)" : ""));
        Line(
            "Revision",
            verdict.Revision is { } n ? $"{n}{(verdict.Previous is null ? "" : $", follows {SealKey.Short(verdict.Previous)}")}" : null
        );
        Line("Sealed", verdict.SealedAt?.ToString("yyyy-MM-dd HH:mm 'UTC'", System.Globalization.CultureInfo.InvariantCulture));
        Line("Record", verdict.Hash);
        Line("Key", verdict.Key);
        foreach (var s in verdict.Signatures)
        {
            var who = string.Join(", ", new[] { s.Name, s.Position, s.Place }.Where(x => x.Length > 0));
            var how = s.Typed ? " " + texts["pack.sign.typed"] : "";
            Line("Signed", $"{texts["pack.sign." + s.Role]}: {who}, {s.At.UtcDateTime:yyyy-MM-dd HH:mm} UTC.{how}");
        }
        if (verdict.Revision is not null && verdict.Signatures.IsEmpty)
            Line("Signed", "by nobody");
        Line("Reserved", verdict.Reservations);
        Line("Made by", verdict.CoreVersion is { } v ? $"Walkdown {v}" : null);
        foreach (var part in verdict.Parts.Where(p => p.State != PartState.Untouched).Take(50))
            Console.WriteLine($"  {Codes.Of(part.State), -10}{part.Name}{(part.Note.Length > 0 ? $" ({part.Note})" : "")}");
        if (verdict.FilesChecked > 0)
            Console.WriteLine($"{verdict.FilesChecked} files checked.");
        return verdict.Outcome is not (SealOutcome.Untouched or SealOutcome.ErasedElsewhere) ? 1
            : !verdict.KeyKnown ? 3
            : verdict.Outcome == SealOutcome.Untouched ? 0
            : 1;
    }

    private static int Key(string[] args)
    {
        var keys = new KeyFile(new DataFolder(Option(args, "--data") ?? Path.Combine(Directory.GetCurrentDirectory(), ".data")));
        if (
            args is not ["key", "backup" or "restore" or "show", ..]
            || args[1] != "show" && (args.Length < 3 || args[2].StartsWith("--", StringComparison.Ordinal))
        )
            return Say(
                "Say what: key show, key backup FILE, key restore FILE. The passphrase is asked for, or taken from WALKDOWN_PASSPHRASE."
            );
        if (args[1] == "show")
        {
            Console.WriteLine(keys.Key.Fingerprint);
            Console.Write(keys.Key.PublicPem());
            Console.WriteLine();
            return 0;
        }
        var phrase = Environment.GetEnvironmentVariable("WALKDOWN_PASSPHRASE");
        if (string.IsNullOrEmpty(phrase))
        {
            Console.Error.Write("Passphrase: ");
            phrase = Console.ReadLine() ?? "";
        }
        if (args[1] == "backup")
        {
            if (phrase.Length < 12)
                return Say(new Texts("en")["handover.passphrase"]);
            var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows())
                options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            using (var file = new FileStream(args[2], options))
                file.Write(System.Text.Encoding.ASCII.GetBytes(keys.Key.ToPem(phrase)));
            Console.WriteLine($"The key {SealKey.Short(keys.Key.Fingerprint)} is in {args[2]}. Keep it and its passphrase apart.");
            return 0;
        }
        try
        {
            var key = keys.Restore(File.ReadAllText(args[2]), phrase);
            Console.WriteLine(
                $"Sealing with {SealKey.Short(key.Fingerprint)} from now on; restart a server that runs. The key before lies beside it."
            );
            return 0;
        }
        catch (BadInputException)
        {
            return Say("This is no key of Walkdown, or the passphrase is another. Nothing was changed.");
        }
    }

    private static string? Option(string[] args, string name) =>
        Array.IndexOf(args, name) is var at && at >= 0 && at + 1 < args.Length ? args[at + 1] : null;

    private static int Say(string problem)
    {
        Console.Error.WriteLine(problem);
        return 2;
    }
}
