using System.Diagnostics;
using Walkdown.Core.Measures;

namespace Walkdown.Server.Shared;

/// <summary>What came of work that was done apart.</summary>
/// <param name="Exit">Its exit code; null where it was ended: it took too long, or too much memory, or fell over.</param>
public sealed record ApartOutcome(int? Exit, byte[] Output);

/// <summary>
/// Does work on a stranger's file in a process of its own, with an end in time and in memory: a file that is made to hang, to swell or to
/// overflow the stack ends that process
/// and nothing else. The program is this one, asked by its command line.
/// </summary>
public static class Apart
{
    /// <summary>What .NET itself takes, beside what the work holds.</summary>
    private const long Runtime = 60L << 20;

    private const int MostOutput = 32 << 20;

    private static readonly SemaphoreSlim AtOnce = new(2, 2);

    /// <param name="args">The command line.</param>
    /// <param name="work">Time of a processor that it may take: on a busy machine it takes longer, and no more.</param>
    /// <param name="patience">After this it is ended, whatever it does.</param>
    /// <param name="heard">Each line that it writes to its error stream, such as its progress.</param>
    public static async Task<ApartOutcome> Run(
        IReadOnlyList<string> args,
        TimeSpan work,
        TimeSpan patience,
        long mostMemory,
        Action<string>? heard,
        CancellationToken cancel
    )
    {
        await AtOnce.WaitAsync(cancel);
        try
        {
            using var process = Start(args, mostMemory);
            using var ends = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            ends.CancelAfter(patience);
            var errors = Listen(process.StandardError, heard);
            var output = Bounded(process.StandardOutput.BaseStream);
            try
            {
                await Watch(process, work, mostMemory, ends.Token);
                await process.WaitForExitAsync(ends.Token);
                await errors;
                // 134 and 139: it aborted, or fell off its stack.
                return new ApartOutcome(process.ExitCode is >= 0 and < 100 ? process.ExitCode : null, await output);
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                return new ApartOutcome(null, []);
            }
            finally
            {
                End(process);
            }
        }
        finally
        {
            AtOnce.Release();
        }
    }

    private static Process Start(IReadOnlyList<string> args, long mostMemory)
    {
        var start = new ProcessStartInfo
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            RedirectStandardInput = true,
            UseShellExecute = false,
            WorkingDirectory = AppContext.BaseDirectory,
        };
        var program = typeof(ServerProgram).Assembly.Location;
        var self = Environment.ProcessPath ?? "";
        if (Path.GetFileNameWithoutExtension(self) == Path.GetFileNameWithoutExtension(program))
            start.FileName = self;
        else
        {
            // Run by the host of .NET, or by a test: the same host runs it again.
            start.FileName =
                Path.GetFileNameWithoutExtension(self) == "dotnet" ? self
                : Environment.GetEnvironmentVariable("DOTNET_HOST_PATH") is { Length: > 0 } host ? host
                : "dotnet";
            start.ArgumentList.Add(program);
        }
        foreach (var arg in args)
            start.ArgumentList.Add(arg);
        // Nothing of this process's surroundings is its business, but where .NET is.
        foreach (
            var name in start
                .Environment.Keys.Where(k =>
                    !k.StartsWith("DOTNET_", StringComparison.Ordinal) && k is not ("PATH" or "HOME" or "TMPDIR" or "LANG")
                )
                .ToList()
        )
            start.Environment.Remove(name);
        start.Environment["DOTNET_GCHeapHardLimit"] = $"0x{mostMemory:X}";
        start.Environment["DOTNET_gcServer"] = "0";
        start.Environment["DOTNET_DbgEnableMiniDump"] = "0";
        var process = Process.Start(start)!;
        process.StandardInput.Close();
        return process;
    }

    /// <summary>Memory that is not .NET's own, such as a picture that is unpacked, is watched from outside.</summary>
    private static async Task Watch(Process process, TimeSpan work, long mostMemory, CancellationToken cancel)
    {
        while (!process.HasExited)
        {
            using var look = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            look.CancelAfter(50);
            try
            {
                await process.WaitForExitAsync(look.Token);
                return;
            }
            catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
            {
                if (Overdraws(process, work, mostMemory))
                    throw new OperationCanceledException();
            }
        }
    }

    private static bool Overdraws(Process process, TimeSpan work, long mostMemory)
    {
        try
        {
            process.Refresh();
            return process.WorkingSet64 > mostMemory + Runtime || process.TotalProcessorTime > work;
        }
        catch (Exception gone) when (gone is InvalidOperationException or System.ComponentModel.Win32Exception or IOException)
        {
            // It ended by itself meanwhile.
            return false;
        }
    }

    private static async Task Listen(StreamReader errors, Action<string>? heard)
    {
        while (await errors.ReadLineAsync() is { } line)
            if (line.Length < 200)
                heard?.Invoke(line);
    }

    private static async Task<byte[]> Bounded(Stream output)
    {
        using var kept = new MemoryStream();
        var buffer = new byte[81920];
        int read;
        while ((read = await output.ReadAsync(buffer)) > 0)
            if (kept.Length + read <= MostOutput)
                kept.Write(buffer, 0, read);
        return kept.ToArray();
    }

    private static void End(Process process)
    {
        try
        {
            if (!process.HasExited)
                process.Kill(entireProcessTree: true);
        }
        catch (Exception gone) when (gone is InvalidOperationException or System.ComponentModel.Win32Exception)
        {
            // It ended by itself meanwhile.
        }
    }
}

/// <summary>Work apart that was ended, with its sentence.</summary>
public static class ApartWords
{
    public static readonly Message TooMuch = new("verify.too-much");
}
