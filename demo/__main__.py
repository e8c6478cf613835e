from demo.build import main

if __name__ == "__main__":
    main()
