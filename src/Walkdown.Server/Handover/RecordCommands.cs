using Walkdown.Core.Measures;
using Walkdown.Core.Sealing;
using Walkdown.Reports;
using Walkdown.Storage;

namespace Walkdown.Server.Handover;

/// <summary><c>verify-record FILE</c>, <c>key backup FILE</c> and <c>key restore FILE</c>: on the command line, without a server.</summary>
internal static class RecordCommands
{
    public static int Run(string[] args)
    {
        try
        {
            return args[0] == "key" ? Key(args) : Verify(args);
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
        {
            return Say(problem.Message);
        }
    }

    private static int Verify(string[] args)
    {
        if (args.Length < 2 || args[1].StartsWith("--", StringComparison.Ordinal))
            return Say("Say which file: verify-record FILE [--key FINGERPRINT or PEM file]");
        if (!File.Exists(args[1]))
            return Say($"There is no file {args[1]}.");
        var trusted = Option(args, "--key");
        if (trusted is not null && File.Exists(trusted))
        {
            var pem = File.ReadAllText(trusted);
            if (!System.Security.Cryptography.PemEncoding.TryFind(pem, out var fields) || !pem[fields.Label].SequenceEqual("PUBLIC KEY"))
                return Say($"{trusted} is no public key.");
            trusted = SealKey.FingerprintOf(Convert.FromBase64String(pem[fields.Base64Data]));
        }
        var texts = new Texts("en");
        using var file = File.OpenRead(args[1]);
        var verdict = RecordCheck.Of(file, trusted);
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
            Line(
                "Signed",
                $"{texts["pack.sign." + s.Role]}: {string.Join(", ", new[] { s.Name, s.Position, s.Place }.Where(x => x.Length > 0))}, {s.At.UtcDateTime:yyyy-MM-dd HH:mm} UTC"
            );
        if (verdict.Revision is not null && verdict.Signatures.IsEmpty)
            Line("Signed", "by nobody");
        Line("Reserved", verdict.Reservations);
        Line("Made by", verdict.CoreVersion is { } v ? $"Walkdown {v}" : null);
        foreach (var part in verdict.Parts.Where(p => p.State != PartState.Untouched).Take(50))
            Console.WriteLine($"  {Codes.Of(part.State), -10}{part.Name}{(part.Note.Length > 0 ? $" ({part.Note})" : "")}");
        if (verdict.FilesChecked > 0)
            Console.WriteLine($"{verdict.FilesChecked} files checked.");
        return verdict.Outcome == SealOutcome.Untouched ? 0 : 1;
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
            File.WriteAllText(args[2], keys.Key.ToPem(phrase));
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
